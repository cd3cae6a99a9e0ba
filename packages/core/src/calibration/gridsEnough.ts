import { mapGrid } from '../probe/mapGrid';
import { mapTime } from '../probe/mapTime';
import { missOf, thinned } from '../plate/coarserMap';
import type { Heights } from '../plate/heights';
import { numberOf, type Settings } from '../settings/setting';

/** A grid is enough when it misses nothing of the plate by more than this, mm. */
export const ENOUGH_MM = 0.05;
/** Probing heads travel no faster between points, mm/s; see probe/touch.c. */
const TRAVEL_MM_S = 80;

/** A grid taken out of a finer map: how far it would miss that, and how long it would take. */
export interface GridTried {
  columns: number;
  rows: number;
  worst: number;
  rms: number;
  seconds: number;
  /** It is the first, from the coarsest on, that is enough. */
  enough: boolean;
}

/** `count` of `many` lines, both ends among them, as evenly as they lie. */
const evenly = (many: number, count: number): number[] => [
  ...new Set(Array.from({ length: count }, (_, index) => Math.round((index * (many - 1)) / (count - 1)))),
];

/**
 * Every coarser grid that a map holds, from 2 lines a side to its own, with what it would miss of the map and what it would
 * take. A grid is judged against the points that were measured; what lies between them nobody knows.
 */
export function gridsEnough(settings: Settings, map: Heights): GridTried[] {
  const most = Math.max(map.xs.length, map.ys.length);
  const sizes = Array.from({ length: most - 1 }, (_, index) => index + 2);
  const ends = (lines: readonly number[]): [number, number] => [lines[0] ?? 0, lines.at(-1) ?? 0];
  const reach = { x: ends(map.xs), y: ends(map.ys) };
  const tried = sizes.map((size) => {
    const columns = evenly(map.xs.length, Math.min(size, map.xs.length));
    const rows = evenly(map.ys.length, Math.min(size, map.ys.length));
    const { points } = mapGrid.ofChecked({ reach, nx: columns.length, ny: rows.length });
    const { seconds } = mapTime.ofChecked({
      points,
      travelMmS: TRAVEL_MM_S,
      clearMm: numberOf(settings, 'probe.clear'),
      plungeMmS: numberOf(settings, 'probe.feed'),
      deployS: numberOf(settings, 'probe.deploy-time'),
      touches: numberOf(settings, 'probe.touches'),
    });
    return {
      columns: columns.length,
      rows: rows.length,
      ...missOf(thinned(map, columns, rows), map),
      seconds,
    };
  });
  const first = tried.findIndex(({ worst }) => worst < ENOUGH_MM + 1e-9);
  return tried.map((grid, index) => ({ ...grid, enough: index === first }));
}
