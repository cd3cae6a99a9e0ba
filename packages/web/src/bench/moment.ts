import type { PowerControl } from '@jolly/session/power';

/** How long a machine is left alone between two looks at it, in ms; shorter while the bench runs faster than real time. */
export const POLL_MS = 120;
const SHORT_MS = 20;

/** Resolves when it is time to look at the machine again. */
export const moment = (bench: PowerControl): Promise<void> =>
  new Promise((over) => setTimeout(over, bench.powered.now().pace > 1 ? SHORT_MS : POLL_MS));
