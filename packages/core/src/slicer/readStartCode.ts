import { bodyCalled } from '../machine/bodyCalled';
import { TOLERANCE } from '../calculation/calculation';
import { isOn, notUnderstood } from '../settings/understands';
import type { Facts } from '../machine/facts';
import { AXES, type Axis, SECOND_HOTEND } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { type GcodeLine, readGcode } from './gcodeLine';

/** Something in pasted start G-code that does not suit the machine. */
export interface StartProblem {
  /** The check that speaks of it. */
  id: 'start.no-home' | 'start.over-limit' | 'start.outside' | 'start.not-known' | 'map.start-code';
  /** Where, from 1; 0 for something that is missing. */
  line: number;
  text: string;
  what: string;
  why: string;
}

const HEAT = new Map<string, 'hotend' | 'bed'>([
  ['M104', 'hotend'],
  ['M109', 'hotend'],
  ['M140', 'bed'],
  ['M190', 'bed'],
]);
/** `map take` probes a map afresh; `map use` takes up the stored one. */
const isMap = ({ command }: GcodeLine) => command === 'map take' || command === 'map use';
const isMove = ({ command }: GcodeLine) => command === 'G0' || command === 'G1';

/**
 * Reads the G-code a slicer puts before a print against the machine and its firmware: commands this version of the
 * kit does not know with these settings, forgotten or late homing, a map that homing drops again or that nobody
 * takes up, temperatures above their limits, moves outside the travel. In the order of the lines; what is missing
 * comes last.
 */
export function readStartCode(text: string, facts: Facts, settings: Settings): StartProblem[] {
  const lines = readGcode(text);
  const mapped = notUnderstood(facts, settings, 'map use') === undefined;
  return [
    ...notKnown(lines, facts, settings),
    ...overLimits(lines, settings),
    ...moves(lines, settings),
    ...(mapped ? mapOrder(lines, settings) : []),
  ].sort((a, b) => (a.line || Infinity) - (b.line || Infinity));
}

function notKnown(lines: GcodeLine[], facts: Facts, settings: Settings): StartProblem[] {
  return lines.flatMap(({ line, text, command }) => {
    const why = command && notUnderstood(facts, settings, command);
    if (!why) return [];
    return [{ id: 'start.not-known' as const, line, text, what: why, why: NOT_DONE }];
  });
}
const NOT_DONE = 'The board answers it with an error and does nothing, and the print goes on without it.';

function overLimits(lines: GcodeLine[], settings: Settings): StartProblem[] {
  const two = isOn(settings, 'extruder.second');
  let tool = 0;
  return lines.flatMap(({ line, text, command = '', words }) => {
    if (/^T[01]$/.test(command)) tool = Number(command[1]);
    const heats = HEAT.get(command);
    // Of two hot ends the one it names, else that of the tool in use.
    const body = two && heats === 'hotend' && (words.get('T') ?? tool) === 1 ? SECOND_HOTEND : heats;
    const asked = words.get('S') ?? NaN;
    if (!body) return [];
    const max = numberOf(settings, `heat.${heatKey(body)}.max`);
    if (!(asked > max + TOLERANCE)) return [];
    return [
      {
        id: 'start.over-limit' as const,
        line,
        text,
        what: `The ${bodyCalled(body)} is asked for ${asked} °C; it may be set to ${max} °C.`,
        why: 'The firmware refuses it or stops, and the print begins cold.',
      },
    ];
  });
}

function homedBy({ command, words }: GcodeLine): Axis[] {
  if (command !== 'G28') return [];
  const named = AXES.filter((axis) => words.has(axis.toUpperCase()));
  return named.length > 0 ? named : [...AXES];
}

function moves(lines: GcodeLine[], settings: Settings): StartProblem[] {
  const found: StartProblem[] = [];
  const homed = new Set<Axis>();
  let absolute = true;
  let early: GcodeLine | undefined;
  for (const entry of lines) {
    for (const axis of homedBy(entry)) homed.add(axis);
    if (entry.command === 'G90') absolute = true;
    if (entry.command === 'G91') absolute = false;
    if (!isMove(entry)) continue;
    for (const axis of AXES) {
      const to = entry.words.get(axis.toUpperCase());
      if (to === undefined) continue;
      if (!homed.has(axis)) early ??= entry;
      const [low, high] = spanOf(settings, `travel.${axis}`);
      if (absolute && (to < low - TOLERANCE || to > high + TOLERANCE))
        found.push({
          id: 'start.outside',
          line: entry.line,
          text: entry.text,
          what: `${axis.toUpperCase()} is sent to ${to} mm; its travel is ${low} to ${high} mm.`,
          why: 'The firmware refuses the move, and what was to happen there does not.',
        });
    }
  }
  const missing = AXES.filter((axis) => !homed.has(axis)).map((axis) => axis.toUpperCase());
  if (early)
    found.push({
      id: 'start.no-home',
      line: early.line,
      text: early.text,
      what: 'It moves before it homes.',
      why: 'Nobody knows where the axes are then. Put G28 first.',
    });
  else if (missing.length > 0)
    found.push({
      id: 'start.no-home',
      line: 0,
      text: '',
      what: `${missing.join(', ')} ${missing.length > 1 ? 'are' : 'is'} never homed.`,
      why: 'The print begins wherever the axes happen to stand. Add G28.',
    });
  return found;
}

function mapOrder(lines: GcodeLine[], settings: Settings): StartProblem[] {
  const mapping = lines.filter(isMap);
  const problem = (at: GcodeLine | undefined, what: string, why: string): StartProblem[] => [
    { id: 'map.start-code', line: at?.line ?? 0, text: at?.text ?? '', what, why },
  ];
  const rule = String(settings.get('map.after-home')?.value);
  const lastHome = lines.filter((entry) => homedBy(entry).includes('z')).at(-1);
  const last = mapping.at(-1);
  if (last && lastHome && lastHome.line > last.line && rule === 'left-off')
    return problem(
      last,
      'The map is taken, and then homing drops it.',
      `After ${lastHome.text} in line ${lastHome.line} the map is off again. Home first, then the map.`,
    );
  if (last && rule === 'probed-afresh' && last.command === 'map take')
    return problem(
      last,
      'The plate is probed twice.',
      'The firmware probes afresh after homing already. Take this line out, or let homing leave the map off.',
    );
  if (!last && rule === 'left-off')
    return problem(
      undefined,
      'No line takes up the map.',
      'Homing leaves it off, so it never acts. Add a line after G28, or let homing restore it.',
    );
  return [];
}
