import { bodyCalled } from '../machine/bodyCalled';
import { TOLERANCE } from '../calculation/calculation';
import { type Facts, partFor } from '../machine/facts';
import { AXES, type Axis } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { isOn } from '../settings/understands';
import { inSeries } from '../text/inSeries';
import type { GcodeLine } from './gcodeLine';
import { heatingOf } from './heatings';
import { type LineProblem, NOT_DONE, type ProblemKind } from './lineProblem';
import { unfitWords } from './lineWords';
import { after, axesIn, goingTo, homedBy, hotendOf, isMove, type Standing } from './standing';

/** A problem of a line, and what it is about. */
export interface FoundProblem extends LineProblem {
  kind: ProblemKind;
}

/** Why a line would be refused, or would go wrong. */
interface Trouble {
  kind: ProblemKind;
  what: string;
  why: string;
  /** The board may take it all the same. */
  perhaps?: boolean;
}

interface Machine {
  facts: Facts;
  settings: Settings;
  two: boolean;
}

type Rule = (line: GcodeLine, standing: Standing, machine: Machine) => Trouble | undefined;

/** The most filament that the board takes in one move, mm. */
const LONGEST_PUSH_MM = 200;

/** So far below its travel Z may go while its limit is lifted, mm. */
const LIFTED_MM = 3;

/** What was added up, without the noise of adding. */
const toMicron = (mm: number): number => Number(mm.toFixed(3));

const inCapitals = (axes: readonly Axis[]) => inSeries(axes.map((axis) => axis.toUpperCase()));

const words: Rule = (line, _, { facts, settings }) => {
  const what = unfitWords(line, facts, settings);
  return what === undefined ? undefined : { kind: 'words', what, why: NOT_DONE };
};

const tooHot: Rule = (line, standing, { settings, two }) => {
  const heating = heatingOf(line, standing, two);
  if (!heating) return undefined;
  const max = numberOf(settings, `heat.${heatKey(heating.body)}.max`);
  if (!(heating.c > max + TOLERANCE)) return undefined;
  return {
    kind: 'heat',
    what: `The ${bodyCalled(heating.body)} is asked for ${heating.c} °C; it may be set to ${max} °C.`,
    why: 'The firmware refuses it or stops, and the print begins cold.',
  };
};

/** Z over the plate needs to know where that is; so does what goes from place to place. */
const tooEarly: Rule = (line, { homed, forgotBy }, { facts, settings }) => {
  const { command } = line;
  const homes = homedBy(line);
  const overSpot = homes.includes('z') && settings.get('home.z.with')?.value === 'probe';
  const wanted = overSpot
    ? (['x', 'y'] as const).filter((axis) => !homes.includes(axis))
    : AXES.filter((axis) => facts.kit.commands.find(({ say }) => say === command)?.homed?.includes(axis.toUpperCase()));
  const missing = wanted.filter((axis) => !homed.has(axis));
  if (missing.length === 0) return undefined;
  return {
    kind: 'homing',
    what: `It needs ${inCapitals(missing)} homed before it${since(forgotBy)}.`,
    why: `${NOT_DONE} Put G28 before it.`,
  };
}; // prettier-ignore

const since = (forgotBy: GcodeLine | undefined): string =>
  forgotBy ? `, and ${forgotBy.command} in line ${forgotBy.line} gives that up` : '';

const unhomed: Rule = (line, { homed, forgotBy }) => {
  if (!isMove(line) || axesIn(line).every((axis) => homed.has(axis))) return undefined;
  return {
    kind: 'homing',
    what: forgotBy ? `It moves, and is not homed any more since ${forgotBy.command} in line ${forgotBy.line}.` : 'It moves before it homes.',
    why: 'Nobody knows where the axes are then. Put G28 first.',
    perhaps: true,
  };
}; // prettier-ignore

const outside: Rule = (line, standing, { settings }) => {
  if (!isMove(line) || standing.shifted) return undefined;
  for (const axis of axesIn(line)) {
    if (!standing.homed.has(axis)) continue;
    const [low, high] = spanOf(settings, `travel.${axis}`);
    const travel = `its travel is ${low} to ${high} mm`;
    const { to, by = 0 } = goingTo(line, standing, axis);
    const from = axis === 'z' && standing.lifted ? low - LIFTED_MM : low;
    const why = 'The firmware refuses the move, and what was to happen there does not.';
    if (to !== undefined && (to < from - TOLERANCE || to > high + TOLERANCE))
      return { kind: 'outside', what: `${axis.toUpperCase()} is sent to ${toMicron(to)} mm; ${travel}.`, why };
    if (to === undefined && Math.abs(by) > high - low + TOLERANCE)
      return { kind: 'outside', what: `${axis.toUpperCase()} is sent ${by} mm along; ${travel}.`, why };
  }
  return undefined;
}; // prettier-ignore

const feedRate: Rule = (line) => {
  const feed = line.words.get('F');
  if (!isMove(line) || feed === undefined || !(feed <= 0)) return undefined;
  return { kind: 'words', what: `F is ${feed} mm/min; it must be above 0.`, why: NOT_DONE };
};

/** mm of filament of what E says. */
function filamentOf(settings: Settings, told: number): number {
  if (!isOn(settings, 'filament.volumetric')) return told;
  const radius = numberOf(settings, 'filament.diameter') / 2;
  return told / (Math.PI * radius * radius);
}

const tooLong: Rule = (line, standing, { settings }) => {
  const { by } = isMove(line) ? goingTo(line, standing, 'e') : {};
  const way = by === undefined ? 0 : filamentOf(settings, by);
  if (Math.abs(way) <= LONGEST_PUSH_MM + TOLERANCE) return undefined;
  return {
    kind: 'words',
    what: `It moves ${Math.round(Math.abs(way))} mm of filament at once; the board takes ${LONGEST_PUSH_MM} mm.`,
    why: NOT_DONE,
  };
};

const tooCold: Rule = (line, standing, { facts, settings, two }) => {
  if (!isMove(line) || !line.words.has('E') || goingTo(line, standing, 'e').by === 0) return undefined;
  const body = hotendOf(line, standing, two);
  const from = numberOf(settings, 'extrude.from');
  const c = standing.waited.get(body);
  if (!partFor(facts, 'heater', body) || from === 0 || Number.isNaN(c) || (c !== undefined && c >= from)) return undefined;
  const what =
    c === undefined
      ? `It moves filament, and no line before it waits for the ${bodyCalled(body)}.`
      : `It moves filament when the ${bodyCalled(body)} was waited for at ${c} °C.`;
  const why = `Below ${from} °C the board refuses it, and nothing comes out.${c === undefined ? ' Put M109 before it, unless your slicer waits for the heat before these lines.' : ''}`;
  return { kind: 'cold', what, why, perhaps: true };
}; // prettier-ignore

/** In the order in which the board looks. */
const RULES: readonly Rule[] = [words, tooHot, tooEarly, unhomed, feedRate, outside, tooLong, tooCold];

/** What speaks against a line, up to the first thing for which the board certainly refuses it. */
function troublesOf(line: GcodeLine, standing: Standing, machine: Machine): Trouble[] {
  const troubles: Trouble[] = [];
  for (const rule of RULES) {
    const trouble = rule(line, standing, machine);
    if (trouble) troubles.push(trouble);
    if (trouble && !trouble.perhaps) break;
  }
  return troubles;
}

type Over = (line: GcodeLine) => boolean;
/** Said once, until something makes it good: every line after it would say the same. */
const ONCE: Partial<Record<ProblemKind, Over>> = {
  homing: ({ command }) => command === 'G28' || command === 'M84',
  cold: ({ command = '' }) => ['M109', 'T0', 'T1'].includes(command),
};

/**
 * Follows lines as the board would, from how it stands before them: what it would refuse, and what would go wrong, in
 * their order. A line that is refused changes nothing.
 */
export function followLines(
  lines: readonly GcodeLine[],
  facts: Facts,
  settings: Settings,
  begin: Standing,
): { problems: FoundProblem[]; end: Standing } {
  const machine = { facts, settings, two: isOn(settings, 'extruder.second') };
  const problems: FoundProblem[] = [];
  const said = new Set<ProblemKind>();
  let standing = begin;
  for (const line of lines) {
    const troubles = troublesOf(line, standing, machine);
    for (const { kind, what, why } of troubles) {
      if (!said.has(kind)) problems.push({ kind, line: line.line, text: line.text, what, why });
      if (ONCE[kind]) said.add(kind);
    }
    if (troubles.some(({ perhaps }) => !perhaps)) continue;
    standing = after(line, standing, machine.two);
    for (const kind of said) if (ONCE[kind]?.(line)) said.delete(kind);
  }
  return { problems, end: standing };
}
