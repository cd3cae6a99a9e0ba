import { AXES, type Axis, SECOND_HOTEND, type Warmed } from '../machine/machine';
import type { GcodeLine } from './gcodeLine';

/** How the machine stands before a line, as far as the lines before it say. */
export interface Standing {
  homed: ReadonlySet<Axis>;
  /** What made it forget where the axes are. */
  forgotBy?: GcodeLine;
  relative: boolean;
  /** Whether E counts from where the filament is; missing before a line says so. */
  filamentRelative?: boolean;
  /** Where it stands, mm, and what E counts; what is missing is not known. */
  place: ReadonlyMap<Axis | 'e', number>;
  /** Places count from another zero point than the machine's. */
  shifted: boolean;
  /** Z may go below its travel. */
  lifted: boolean;
  tool: 0 | 1;
  /** °C for which a hot end was waited; not a number where that is as hot as the slicer says. */
  waited: ReadonlyMap<Warmed, number>;
}

/** Before a print: nobody knows where anything is, and nothing was waited for. */
export const BEFORE_PRINT: Standing = {
  homed: new Set(),
  relative: false,
  place: new Map(),
  shifted: false,
  lifted: false,
  tool: 0,
  waited: new Map(),
};

/** After a print: it is homed, somewhere, and hot. */
export const AFTER_PRINT: Standing = {
  ...BEFORE_PRINT,
  homed: new Set(AXES),
  waited: new Map([
    ['hotend', NaN],
    [SECOND_HOTEND, NaN],
  ]),
};

const MOVES: readonly (string | undefined)[] = ['G0', 'G1', 'G2', 'G3', 'move by'];
export const isMove = ({ command }: GcodeLine): boolean => MOVES.includes(command);

/** The axes that a line names. */
export const axesIn = ({ words }: GcodeLine): Axis[] => AXES.filter((axis) => words.has(axis.toUpperCase()));

/** The axes that a line homes. */
export function homedBy(line: GcodeLine): Axis[] {
  if (line.command !== 'G28') return [];
  const named = axesIn(line);
  return named.length > 0 ? named : [...AXES];
}

/** The hot end that a line speaks of: the one that is named, else that of the tool in use. */
export const hotendOf = ({ words }: GcodeLine, { tool }: Standing, two: boolean): 'hotend' | typeof SECOND_HOTEND =>
  two && (words.get('T') ?? tool) === 1 ? SECOND_HOTEND : 'hotend'; // prettier-ignore

/** Where a move goes along an axis, and how far; what is missing is not known. */
export function goingTo(line: GcodeLine, standing: Standing, axis: Axis | 'e'): { to?: number; by?: number } {
  const said = line.words.get(axis.toUpperCase());
  if (said === undefined || Number.isNaN(said)) return {};
  const { relative, filamentRelative, place } = standing;
  const from = place.get(axis);
  const counted = line.command === 'move by' || relative || (axis === 'e' ? filamentRelative : false);
  if (counted === undefined) return {};
  if (counted) return { by: said, ...(from !== undefined && { to: from + said }) };
  return { to: said, ...(from !== undefined && { by: said - from }) };
}

/** How it stands after a line that the board took. */
export function after(line: GcodeLine, standing: Standing, two: boolean): Standing {
  const { command = '' } = line;
  if (isMove(line)) return { ...standing, place: moved(line, standing) };
  const next = Object.hasOwn(EFFECTS, command) ? EFFECTS[command]?.(line, standing, two) : undefined;
  if (next) return { ...standing, ...next };
  // What is said in words may go anywhere.
  return /^[a-z]/.test(command) ? { ...standing, place: new Map() } : standing;
}

type Effect = (line: GcodeLine, standing: Standing, two: boolean) => Partial<Standing>;

const EFFECTS: Readonly<Record<string, Effect>> = {
  G28: (line, { homed, place }) => ({
    homed: new Set([...homed, ...homedBy(line)]),
    lifted: false,
    place: new Map([...place].filter(([axis]) => axis === 'e')),
  }),
  G92: (line, standing) => ({ place: withPlace(standing.place, 'e', line.words.get('E')) }),
  G90: () => ({ relative: false, filamentRelative: false }),
  G91: () => ({ relative: true, filamentRelative: true }),
  M82: () => ({ filamentRelative: false }),
  M83: () => ({ filamentRelative: true }),
  M84: (line, standing) => ({ ...forgetting(line, standing, AXES), place: new Map() }),
  // Another count of steps for a millimetre: the place told so far was another.
  M92: (line, standing) => forgetting(line, standing, axesIn(line)),
  M109: (line, standing, two) => ({ waited: new Map([...standing.waited, [hotendOf(line, standing, two), line.words.get('S') ?? NaN]]) }),
  T0: () => ({ tool: 0 }),
  T1: () => ({ tool: 1 }),
  'limits off': () => ({ lifted: true }),
  'limits on': () => ({ lifted: false }),
  origin: () => ({ shifted: true }),
  ...Object.fromEntries(['G54', 'G55', 'G56', 'G57', 'G58', 'G59'].map((code) => [code, () => ({ shifted: true })])),
}; // prettier-ignore

/** Axes that were homed, and are not any more because of a line. */
function forgetting(line: GcodeLine, { homed }: Standing, axes: readonly Axis[]): Partial<Standing> {
  const left = [...homed].filter((axis) => !axes.includes(axis));
  return left.length === homed.size ? {} : { homed: new Set(left), forgotBy: line };
}

function moved(line: GcodeLine, standing: Standing): Standing['place'] {
  const named = ([...AXES, 'e'] as const).filter((axis) => line.words.has(axis.toUpperCase()));
  return named.reduce(
    (place, axis) => withPlace(place, axis, goingTo(line, standing, axis).to),
    standing.place,
  );
}

/** Places with one of them changed; one that is not known any more is missing. */
function withPlace(place: Standing['place'], axis: Axis | 'e', at: number | undefined): Standing['place'] {
  const others = [...place].filter(([other]) => other !== axis);
  return new Map(at === undefined || Number.isNaN(at) ? others : [...others, [axis, at]]);
}
