import type { BoardReadings } from './boardReading';

/** What a body's temperature, target and duty were at a time of the machine's clock, in s. */
export interface CurvePoint {
  s: number;
  /** By body: °C, °C (0 when it is off), and 0 to 1. */
  bodies: Readonly<Record<string, { now: number; target: number; duty: number }>>;
}
export type HeatCurve = readonly CurvePoint[];

/** So many points are kept: at two a second, about ten minutes. */
const MOST_POINTS = 1200;
/** Points lie so far apart at least, in s: a board that is asked more often fills no curve. */
const LEAST_APART_S = 0.25;

/** The curve with what the board says now; the same when hardly any time has passed or it says no temperature. */
export function withPoint(curve: HeatCurve, readings: BoardReadings, s: number): HeatCurve {
  const last = curve.at(-1);
  if (last && s - last.s < LEAST_APART_S) return curve;
  const bodies = Object.fromEntries(
    Object.entries(readings).flatMap(([key, { values }]) => {
      const body = /^heat (\w+)$/.exec(key)?.[1];
      const [now, target, duty] = [values['now'], values['target'], values['duty']].map(Number);
      if (body === undefined || now === undefined || !Number.isFinite(now)) return [];
      return [[body, { now, target: target ?? 0, duty: duty ?? 0 }]];
    }),
  );
  return Object.keys(bodies).length === 0 ? curve : [...curve.slice(1 - MOST_POINTS), { s, bodies }];
}
