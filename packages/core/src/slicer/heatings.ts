import type { Warmed } from '../machine/machine';
import type { Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { GcodeLine } from './gcodeLine';
import { after, BEFORE_PRINT, hotendOf, type Standing } from './standing';

/** What a line asks of a heater. */
export interface Heating {
  body: Warmed;
  /** °C; not a number where the slicer fills it in. */
  c: number;
  at: GcodeLine;
}

const HEATS = new Map<string, Warmed>([
  ['M104', 'hotend'],
  ['M109', 'hotend'],
  ['M140', 'bed'],
  ['M190', 'bed'],
  ['M141', 'chamber'],
  ['M191', 'chamber'],
]);

/** The heat that a line asks for, and of which body. */
export function heatingOf(line: GcodeLine, standing: Standing, two: boolean): Omit<Heating, 'at'> | undefined {
  const heats = HEATS.get(line.command ?? '');
  if (!heats) return undefined;
  return { body: heats === 'hotend' ? hotendOf(line, standing, two) : heats, c: line.words.get('S') ?? NaN };
} // prettier-ignore

/** The lines that ask for heat, each with its body. */
export function heatingsIn(lines: readonly GcodeLine[], settings: Settings): Heating[] {
  const two = isOn(settings, 'extruder.second');
  let standing = BEFORE_PRINT;
  return lines.flatMap((at) => {
    const heating = heatingOf(at, standing, two);
    standing = after(at, standing, two);
    return heating ? [{ ...heating, at }] : [];
  });
}
