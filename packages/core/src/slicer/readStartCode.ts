import type { Facts } from '../machine/facts';
import { AXES } from '../machine/machine';
import type { Settings } from '../settings/setting';
import { notUnderstood } from '../settings/understands';
import { inSeries } from '../text/inSeries';
import { followLines } from './followLines';
import { type GcodeLine, readGcode } from './gcodeLine';
import type { LineProblem, ProblemKind } from './lineProblem';
import { BEFORE_PRINT, homedBy, type Standing } from './standing';

/** Something in pasted start G-code that does not suit the machine. */
export interface StartProblem extends LineProblem {
  /** The check that speaks of it. */
  id:
    | 'start.no-home'
    | 'start.over-limit'
    | 'start.outside'
    | 'start.not-known'
    | 'start.cold'
    | 'map.start-code';
}

/** `map take` probes a map afresh; `map use` takes up the stored one. */
const isMap = ({ command }: GcodeLine) => command === 'map take' || command === 'map use';

const SPOKEN_OF_BY: Readonly<Record<ProblemKind, StartProblem['id']>> = {
  words: 'start.not-known',
  heat: 'start.over-limit',
  outside: 'start.outside',
  homing: 'start.no-home',
  cold: 'start.cold',
};

/**
 * Reads the G-code a slicer puts before a print against the machine and its firmware: lines that this version of the
 * kit does not take with these settings, forgotten or late homing, a map that homing drops again or that nobody takes up,
 * temperatures above their limits, moves outside the travel, filament that is moved cold. In the order of the lines; what
 * is missing comes last.
 */
export function readStartCode(text: string, facts: Facts, settings: Settings): StartProblem[] {
  const lines = readGcode(text);
  const { problems, end } = followLines(lines, facts, settings, BEFORE_PRINT);
  const told = problems.map(({ kind, ...problem }) => ({ id: SPOKEN_OF_BY[kind], ...problem }));
  const mapped = notUnderstood(facts, settings, 'map use') === undefined;
  return [
    ...told,
    ...(told.some(({ id }) => id === 'start.no-home') ? [] : neverHomed(end)),
    ...(mapped ? mapOrder(lines, settings) : []),
  ].sort((a, b) => (a.line || Infinity) - (b.line || Infinity));
}

/** Axes that no line homes, or none after what makes the board forget them. */
function neverHomed({ homed, forgotBy }: Standing): StartProblem[] {
  const never = AXES.filter((axis) => !homed.has(axis)).map((axis) => axis.toUpperCase());
  if (never.length === 0) return [];
  const are = never.length > 1 ? 'are' : 'is';
  return [
    {
      id: 'start.no-home',
      line: forgotBy?.line ?? 0,
      text: forgotBy?.text ?? '',
      what: forgotBy
        ? `After it ${inSeries(never)} ${are} not homed any more.`
        : `${inSeries(never)} ${are} never homed.`,
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
