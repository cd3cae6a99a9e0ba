import type { Finding } from '@jolly/core/finding/finding';

const ABOUT_WIRING =
  /^(pins|level|sensor|supply|plug|header|wire|fault|socket|harness|driver|endstop|rail|kit\.unheard|heat\.(mains|over-relay|bed-over-output))/;

/** Whether a finding is about leads and what they meet. */
export const isAboutWiring = ({ id }: Finding): boolean => ABOUT_WIRING.test(id);
