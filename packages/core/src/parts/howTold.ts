import type { PartOf } from './part';

const WORDS: Record<PartOf<'driver'>['mode'], string> = {
  'stand-alone': 'is set at its pot',
  serial: 'is told over a serial line',
  select: 'is told over a select line',
};

/** How a driver module learns its current, as a clause: `Hush Wire is told over a serial line`. */
export const howTold = ({ name, mode }: Pick<PartOf<'driver'>, 'name' | 'mode'>): string =>
  `${name} ${WORDS[mode]}`;
