import type { Extruder } from '../machine/extruders';
import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { strokes } from './strokes';
import { writeEndCode, writeStartCode } from './writeStartCode';

/** A band of a pattern: how it is called and what is set before it, and how fast its lines are. */
export interface Band {
  label: string;
  before?: string;
  /** mm/min of its slow ends and of its middle. */
  slow: number;
  fast: number;
}

export interface Pattern {
  title: string;
  bands: readonly Band[];
  way: 'zigzag' | 'line';
  /** What it is printed with; the first one, where nothing is said. */
  extruder?: Extruder | undefined;
}

const LAYER_MM = 0.25;
const LENGTH_MM = 60;
const APART_MM = 5;
const TOOTH_MM = 5;

/**
 * Bands one behind the other, from the front, each printed in the same way with something set otherwise: the person finds
 * the best and says which. `zigzag` runs round sharp corners; `line` goes slow, fast and slow again.
 */
export function bandPattern(
  facts: Facts,
  settings: Settings,
  { title, bands, way, extruder }: Pattern,
): string {
  const { bed_mm: bed } = facts.machine.frame;
  const left = (bed.x[0] + bed.x[1]) / 2 - LENGTH_MM / 2;
  const apart = way === 'zigzag' ? APART_MM + TOOTH_MM : APART_MM;
  const front = (bed.y[0] + bed.y[1]) / 2 - (bands.length * apart) / 2;
  const pen = strokes(LAYER_MM);
  bands.forEach(({ label, before, slow, fast }, nth) => {
    const y = front + nth * apart;
    pen.say(`; band ${nth + 1}: ${label}`);
    if (before !== undefined) pen.say(before);
    pen.travel(left, y);
    if (way === 'line') {
      for (const [share, speed] of [[0.25, slow], [0.75, fast], [1, slow]] as const) pen.draw(left + share * LENGTH_MM, y, speed);
      return;
    }
    for (let tooth = 0; tooth < LENGTH_MM / TOOTH_MM; tooth += 1) {
      const [from, to] = tooth % 2 === 0 ? [y, y + TOOTH_MM] : [y + TOOTH_MM, y];
      pen.draw(left + tooth * TOOTH_MM, from, fast);
      pen.draw(left + tooth * TOOTH_MM, to, fast);
    }
  });
  const tool = extruder?.tool;
  return [`; ${title}`, ...(tool ? [tool] : []), writeStartCode(facts, settings, extruder?.hotend), 'G90', 'M82', 'G92 E0', `G1 Z${LAYER_MM} F600`, ...pen.lines(), writeEndCode(facts, settings), ...(tool === 'T1' ? ['T0', ''] : [])].join('\n');
} // prettier-ignore
