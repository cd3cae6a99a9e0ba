import { bodyCalled } from '../machine/bodyCalled';
import { TOLERANCE } from '../calculation/calculation';
import type { Facts } from '../machine/facts';
import { AXES, type Axis, SECOND_HOTEND, type Warmed } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { isOn, notUnderstood } from '../settings/understands';
import type { GcodeLine } from './gcodeLine';

/** Something in pasted G-code that does not suit the machine. */
export interface LineProblem {
  /** Where, from 1; 0 for something that is missing. */
  line: number;
  text: string;
  what: string;
  why: string;
}

const HEATS = new Map<string, Warmed>([
  ['M104', 'hotend'],
  ['M109', 'hotend'],
  ['M140', 'bed'],
  ['M190', 'bed'],
  ['M141', 'chamber'],
  ['M191', 'chamber'],
]);

const isMove = ({ command }: GcodeLine) => command === 'G0' || command === 'G1';

/** Lines that this version of the kit would refuse with these settings: commands it does not know, and words that do not belong. */
export function notKnown(lines: readonly GcodeLine[], facts: Facts, settings: Settings): LineProblem[] {
  return lines.flatMap((entry) => {
    const { line, text, command, unreadable } = entry;
    const what = unreadable
      ? `The board cannot read it: ${unreadable}.`
      : (command && notUnderstood(facts, settings, command)) || misfit(entry, facts, settings);
    return what ? [{ line, text, what, why: NOT_DONE }] : [];
  });
}

/** What a command is given that it does not take, or not given that it needs. */
function misfit({ text, command, words }: GcodeLine, { kit }: Facts, settings: Settings): string | undefined {
  const known = kit.commands.find(({ say }) => say === command);
  if (!known || known.takes === undefined) return undefined;
  const { say, alone = '', needs = '', ranges = {} } = known;
  const more = Object.entries(known.takes_with ?? {}).flatMap(([key, letters]) => (isOn(settings, key) ? [letters] : []));
  const takes = [known.takes, ...more].join('');
  for (const [letter, value] of words) {
    if (!takes.includes(letter) && !alone.includes(letter)) return `${say} takes no ${letter}.`;
    // What a slicer fills in is not known here.
    if (Number.isNaN(value) && /[{[<]/.test(text)) continue;
    if (Number.isNaN(value) && !alone.includes(letter)) return `${say} needs a number behind ${letter}.`;
    if (!Number.isNaN(value) && !takes.includes(letter)) return `${letter} stands alone behind ${say}, without a number.`;
    const range = ranges[letter];
    if (range && (value < range[0] || value > range[1])) return `${letter} is ${value}; ${say} takes ${range[0]} to ${range[1]}.`;
  }
  const missing = [...needs].find((letter) => !words.has(letter));
  return missing && `${say} needs ${missing} with a number.`;
} // prettier-ignore
const NOT_DONE = 'The board answers it with an error and does nothing, and the print goes on without it.';

/** A line that asks a body for heat. */
export interface Heating {
  body: Warmed;
  /** °C; not a number where the slicer fills it in. */
  c: number;
  at: GcodeLine;
}

/** The lines that ask for heat, each with its body: of two hot ends the one that is named, else that of the tool in use. */
export function heatings(lines: readonly GcodeLine[], settings: Settings): Heating[] {
  const two = isOn(settings, 'extruder.second');
  let tool = 0;
  return lines.flatMap((at) => {
    const { command = '', words } = at;
    if (/^T[01]$/.test(command)) tool = Number(command[1]);
    const heats = HEATS.get(command);
    if (!heats) return [];
    const body = two && heats === 'hotend' && (words.get('T') ?? tool) === 1 ? SECOND_HOTEND : heats;
    return [{ body, c: words.get('S') ?? NaN, at }];
  });
}

/** Bodies asked for more than they may be set to. */
export function overLimits(lines: readonly GcodeLine[], settings: Settings): LineProblem[] {
  return heatings(lines, settings).flatMap(({ body, c, at: { line, text } }) => {
    const max = numberOf(settings, `heat.${heatKey(body)}.max`);
    if (!(c > max + TOLERANCE)) return [];
    return [
      {
        line,
        text,
        what: `The ${bodyCalled(body)} is asked for ${c} °C; it may be set to ${max} °C.`,
        why: 'The firmware refuses it or stops, and the print begins cold.',
      },
    ];
  });
}

/** Moves to a place outside the travel. */
export function outside(lines: readonly GcodeLine[], settings: Settings): LineProblem[] {
  let absolute = true;
  return lines.flatMap((entry) => {
    const { command, words, line, text } = entry;
    if (command === 'G90') absolute = true;
    if (command === 'G91') absolute = false;
    if (!isMove(entry) || !absolute) return [];
    return AXES.flatMap((axis) => {
      const to = words.get(axis.toUpperCase());
      const [low, high] = spanOf(settings, `travel.${axis}`);
      if (to === undefined || !(to < low - TOLERANCE || to > high + TOLERANCE)) return [];
      return [
        {
          line,
          text,
          what: `${axis.toUpperCase()} is sent to ${to} mm; its travel is ${low} to ${high} mm.`,
          why: 'The firmware refuses the move, and what was to happen there does not.',
        },
      ];
    });
  });
}

/** The first move of an axis that was not homed before it, and the axes that never are. */
export function unhomed(lines: readonly GcodeLine[]): { early: GcodeLine | undefined; never: Axis[] } {
  const homed = new Set<Axis>();
  let early: GcodeLine | undefined;
  for (const entry of lines) {
    for (const axis of homedBy(entry)) homed.add(axis);
    if (isMove(entry) && AXES.some((axis) => entry.words.has(axis.toUpperCase()) && !homed.has(axis)))
      early ??= entry;
  }
  return { early, never: AXES.filter((axis) => !homed.has(axis)) };
}

/** The axes that a line homes. */
export function homedBy({ command, words }: GcodeLine): Axis[] {
  if (command !== 'G28') return [];
  const named = AXES.filter((axis) => words.has(axis.toUpperCase()));
  return named.length > 0 ? named : [...AXES];
}
