import { optionOf } from '../kit/optionOf';
import type { Facts } from '../machine/facts';
import type { HeaterPart } from '../parts/part';
import type { HeatKey } from './heatKey';
import { numberOf, type Settings } from './setting';

export type HeaterBody = NonNullable<HeaterPart['body']>;

/** How far below its target a body may fall before the guard's hold window starts, in °C: room for an opened door or a fan. */
const DROP_C = 7;
/** Rise the guard waits for while warming, in °C: more than one noisy reading. */
const RISE_C = 3;

/** Share of the heater's full gain still in hand at the hottest target it is used for. */
const IN_HAND = 0.2;
/** How many times the awaited rise a healthy heater must manage in the window. */
const FACTOR = 2;

/** Time in which a body with `IN_HAND` of its gain left rises `FACTOR` times the awaited rise (first order plus dead time). */
function riseTime(body: HeaterBody): number {
  return Math.ceil(body.dead_s - body.tau_s * Math.log(1 - (FACTOR * RISE_C) / (IN_HAND * body.gain_c)));
}

/** The guard's windows, by option key, from a heater's warming curve. Holding allows a fifth of the time constant, at least 10 s. */
export const GUARD_WINDOWS: { key: string; of: (body: HeaterBody) => number }[] = [
  { key: 'rise', of: () => RISE_C },
  { key: 'rise-time', of: riseTime },
  { key: 'drop', of: () => DROP_C },
  { key: 'drop-time', of: (body) => Math.max(10, Math.ceil(body.tau_s / 5)) },
];

export type TimeWindow = 'rise-time' | 'drop-time';
/**
 * The nearest time of a guard, in whole s, that is in the range of its option and suits.
 * @param of whose guard it is, see heatKey; which of its times; and whether a longer or a shorter one is sought
 * @returns undefined where no such time suits
 */
export function nearestTime(
  { kit }: Pick<Facts, 'kit'>,
  settings: Settings,
  { by, window, going }: { by: HeatKey; window: TimeWindow; going: 'longer' | 'shorter' },
  suits: (s: number) => boolean,
): number | undefined {
  const key = `guard.${by}.${window}`;
  const option = optionOf(kit, key);
  if (option?.kind !== 'number') return undefined;
  const [least, most] = option.range;
  const now = Math.round(numberOf(settings, key));
  const [times, step] = going === 'longer' ? [most - now, 1] : [now - least, -1];
  for (let nth = 1; nth <= times; nth += 1) if (suits(now + nth * step)) return now + nth * step;
  return undefined;
}
