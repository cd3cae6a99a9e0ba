import { type Facts, type PlacedPart, socketOf } from './facts';
import { oncePer } from '../tree/oncePer';
import { sameValue } from '../tree/sameValue';
import { secondDrive } from './driveOf';
import { MOTOR_AXES, SECOND_HOTEND } from './machine';
import { secondMotor } from './secondMotor';

/** The name of a fact that other things rest on: `board`, `driver.x`, `probe-mount`, `landing.switch` … */
export type FactKey = string;
/** Facts that differ, each with what it was and what it is. */
export type Touched = ReadonlyMap<FactKey, { from: string; to: string }>;

/** What a fact is made of: words, numbers, or pieces of the machine file. */
type Atoms = unknown[];

/** Every fact of a machine that something may rest on, taken apart for comparing. */
export type FactAtoms = ReadonlyMap<FactKey, Atoms>;

/** Takes the facts of a machine apart. */
export const factAtoms = oncePer((facts: Facts): FactAtoms => {
  const { machine, board, chip, kit, parts } = facts;
  const { frame, supply, axes, probe_mount: mount } = machine;
  const found = new Map<FactKey, Atoms>([
    ['board', [board.name, `rev ${board.revision}`, ...copyAtoms(machine.board)]],
    ['chip', [chip.name]],
    ['supply', [`${supply.volts_v} V`, `${supply.amps_a} A`]],
    ['kit', [kit.name, kit.version]],
    ['frame.travel', [frame.travel_mm]],
    ['frame.bed', [frame.bed_mm]],
    ['frame.switches', [frame.switch_at]],
  ]);
  for (const axis of MOTOR_AXES) found.set(`axis.${axis}`, [axes[axis]]);
  if (secondMotor(facts, 'e')) found.set('axis.e2', [secondDrive(machine)]);
  // What was measured of it since is not how it is mounted.
  if (mount) found.set('probe-mount', [{ side: mount.side, side_mm: mount.side_mm, face: mount.face, face_mm: mount.face_mm }]); // prettier-ignore
  const add = (key: FactKey, ...atoms: Atoms) => {
    const known = found.get(key);
    if (known) known.push(...atoms);
    else found.set(key, atoms);
  };
  for (const part of parts) {
    const { id, type, microsteps, landing, copy } = part;
    const [own, wiring] = factsOfPart(facts, part);
    add(own, type.name, ...copyAtoms({ copy }));
    if (microsteps !== undefined) add(own, `${microsteps} microsteps`);
    if (type.kind === 'motor')
      add(wiring, landing && 'turned' in landing && landing.turned ? 'turned' : 'straight');
    else if (landing && 'leads' in landing) add(wiring, id, landing.leads);
  }
  return found;
});

/** Another copy of the same is another thing; the first is not told. */
const copyAtoms = ({ copy }: { copy?: number | undefined }): Atoms =>
  copy === undefined ? [] : [`copy ${copy}`];

/** The names of the two facts that a part is: what it is, and how it is connected. */
export function factsOfPart(facts: Facts, part: PlacedPart): [FactKey, FactKey] {
  const { kind } = part.type;
  const of = drivesSecond(facts, part) ? 'e2' : part.role;
  return [kind === 'probe' ? kind : `${kind}.${of}`, kind === 'motor' ? `plug.${of}` : `landing.${kind}`];
}

/** The motor of a second extruder, and the module it hangs on. */
function drivesSecond(facts: Facts, part: PlacedPart): boolean {
  if (part.role !== 'e') return false;
  const socket = socketOf(secondMotor(facts, 'e'));
  return socket !== undefined && socketOf(part) === socket;
}

/** A fact taken apart, in one line. */
export const atomsInWords = (atoms: readonly unknown[] | undefined) =>
  atoms?.map((atom) => (typeof atom === 'string' ? atom : JSON.stringify(atom))).join(', ') ?? 'none';

/** Whether two lines tell the same fact: a database gives the keys of what it keeps in an order of its own. */
export const sameInWords = (one: string, other: string): boolean => {
  const pieces = (words: string) =>
    words
      .split(/[{},]+/)
      .map((piece) => piece.trim())
      .sort()
      .join();
  return one === other || pieces(one) === pieces(other);
};

/** That a fact is another one than when something was measured or tested, as a clause. */
export function otherThan(
  key: FactKey,
  was: string,
  now: string,
  when: 'measured' | 'tested' | 'noted',
): string {
  const fact = factInWords(key);
  if (was === 'none') return `${fact} was not there when it was ${when}`;
  if (now === 'none') return `${fact} is there no more`;
  // A piece of a machine file says nothing to anybody.
  if (was === now || `${was}${now}`.includes('{')) return `${fact} is not as it was when it was ${when}`;
  return `it was ${when} with ${fact} as ${was}; it is ${now} now`;
}

/** The facts that differ between two states of a machine, and the events that no fact shows (a nozzle job). */
export function touched(was: FactAtoms, is: FactAtoms, events: readonly FactKey[]): Touched {
  const found = new Map<FactKey, { from: string; to: string }>();
  const compare = (key: FactKey) => {
    const [old, now] = [was.get(key), is.get(key)];
    if (!sameValue(old, now)) found.set(key, { from: atomsInWords(old), to: atomsInWords(now) });
  };
  for (const key of was.keys()) compare(key);
  for (const key of is.keys()) if (!was.has(key)) compare(key);
  for (const event of events) found.set(event, { from: 'as it was', to: 'another' });
  return found;
}

/** The first touched fact that matches one of the patterns; `driver.*` matches every driver. */
export function touchedBy(facts: Touched, patterns: readonly FactKey[]): FactKey | undefined {
  for (const pattern of patterns) {
    if (!pattern.endsWith('*')) {
      if (facts.has(pattern)) return pattern;
      continue;
    }
    const stem = pattern.slice(0, -1);
    for (const key of facts.keys()) if (key.startsWith(stem)) return key;
  }
  return undefined;
}

const WORDS: Record<string, string> = {
  board: 'the board',
  chip: 'the chip',
  supply: 'the supply',
  kit: 'the kit',
  image: 'the image',
  stored: 'the stored settings',
  probe: 'the probe',
  'probe-mount': 'the mount of the probe',
  nozzle: 'the nozzle',
  hotend: 'the hot end',
  'frame.travel': 'the travel',
  'frame.bed': 'the plate',
  'frame.switches': 'the place of a switch',
};
const KIND: Record<string, string> = { axis: 'drive', plug: 'motor plug', landing: 'wiring of the' };

const WHOSE: Record<string, string> = {
  e: 'extruder',
  e2: 'second extruder’s',
  hotend: 'hot-end',
  [SECOND_HOTEND]: 'second hot end’s',
};

/** A touched fact in words: `driver.x` → "the X driver". */
export function factInWords(key: FactKey): string {
  const known = WORDS[key];
  if (known) return known;
  const [kind = '', of = ''] = key.split('.');
  if (kind === 'landing') return `the wiring of a ${of}`;
  const whose = WHOSE[of] ?? (of.length <= 2 ? of.toUpperCase() : of);
  return `the ${whose} ${KIND[kind] ?? kind}`;
}
