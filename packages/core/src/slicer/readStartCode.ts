import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { notUnderstood } from '../settings/understands';
import { type GcodeLine, readGcode } from './gcodeLine';
import { homedBy, type LineProblem, notKnown, outside, overLimits, unhomed } from './lineProblems';

/** Something in pasted start G-code that does not suit the machine. */
export interface StartProblem extends LineProblem {
  /** The check that speaks of it. */
  id: 'start.no-home' | 'start.over-limit' | 'start.outside' | 'start.not-known' | 'map.start-code';
}

/** `map take` probes a map afresh; `map use` takes up the stored one. */
const isMap = ({ command }: GcodeLine) => command === 'map take' || command === 'map use';

const spokenOfBy = (id: StartProblem['id'], problems: readonly LineProblem[]): StartProblem[] =>
  problems.map((problem) => ({ id, ...problem }));

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
    ...spokenOfBy('start.not-known', notKnown(lines, facts, settings)),
    ...spokenOfBy('start.over-limit', overLimits(lines, settings)),
    ...spokenOfBy('start.outside', outside(lines, settings)),
    ...spokenOfBy('start.no-home', homing(lines)),
    ...(mapped ? mapOrder(lines, settings) : []),
  ].sort((a, b) => (a.line || Infinity) - (b.line || Infinity));
}

function homing(lines: readonly GcodeLine[]): LineProblem[] {
  const { early, never } = unhomed(lines);
  if (early)
    return [
      {
        line: early.line,
        text: early.text,
        what: 'It moves before it homes.',
        why: 'Nobody knows where the axes are then. Put G28 first.',
      },
    ];
  if (never.length === 0) return [];
  return [
    {
      line: 0,
      text: '',
      what: `${never.map((axis) => axis.toUpperCase()).join(', ')} ${never.length > 1 ? 'are' : 'is'} never homed.`,
      why: 'The print begins wherever the axes happen to stand. Add G28.',
    },
  ];
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
