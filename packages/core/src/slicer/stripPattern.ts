import type { Facts } from '../machine/facts';
import { type Settings, spanOf } from '../settings/setting';
import { LINE_MM, strokes } from './strokes';

/** A strip of the first layer's test: so many strands side by side, so long, mm. */
export const STRIP_MM = 40;
export const STRIP_STRANDS = 8;
export const STRIP_LAYER_MM = 0.2;
const APART_MM = 8;
const PRINT_MM_MIN = 1200;

const round = (value: number, digits: number) => Number(value.toFixed(digits));

/** Where strips lie: side by side in the middle of what nozzle and plate share, from left to right. */
export function stripPlaces(facts: Facts, settings: Settings, many: number): { x: number; y: number }[] {
  const { bed_mm: bed } = facts.machine.frame;
  const inside = (axis: 'x' | 'y') => {
    const [low, high] = spanOf(settings, `travel.${axis}`);
    return [Math.max(low, bed[axis][0] + 5), Math.min(high, bed[axis][1] - 5)] as const;
  };
  const [x, y] = [inside('x'), inside('y')];
  const step = STRIP_STRANDS * LINE_MM + APART_MM;
  const fits = Math.max(1, Math.floor((x[1] - x[0] + APART_MM) / step));
  const left = (x[0] + x[1]) / 2 - (Math.min(many, fits) * step - APART_MM) / 2;
  const front = (y[0] + y[1]) / 2 - STRIP_MM / 2;
  return Array.from({ length: many }, (_, nth) => ({
    x: round(left + (nth % fits) * step, 2),
    y: round(front - Math.floor(nth / fits) * (STRIP_MM + APART_MM), 2),
  }));
}

/** The lines that print one strip and leave the nozzle at its end, at its height. Filament is counted from 0. */
export function stripLines({ x, y }: { x: number; y: number }): string[] {
  const strip = strokes(STRIP_LAYER_MM);
  for (let strand = 0; strand < STRIP_STRANDS; strand += 1) {
    const across = x + strand * LINE_MM;
    const [from, to] = strand % 2 === 0 ? [y, y + STRIP_MM] : [y + STRIP_MM, y];
    if (strand === 0) strip.travel(across, from);
    else strip.draw(across, from, PRINT_MM_MIN);
    if (strand === 0) strip.say(`G1 Z${STRIP_LAYER_MM} F300`);
    strip.draw(across, to, PRINT_MM_MIN);
  }
  return ['G90', 'M82', 'G92 E0', 'G1 Z2 F600', ...strip.lines()];
}
