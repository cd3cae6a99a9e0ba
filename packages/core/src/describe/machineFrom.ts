import type { Catalogue } from '../catalogue/catalogue';
import type { AxisDrive } from '../machine/axisDrive';
import { AXES, type Axis, type Machine, type MachinePart, MOTOR_AXES, type ProbeMount } from '../machine/machine'; // prettier-ignore
import type { OwnSetting } from '../machine/machine';
import type { Span } from '../probe/probeReach';
import { asked, type Description, leftOpen, openOf } from './description';
import { BEEPER, type DriveAnswers, PART_IDS, QUESTIONS, SECOND_DRIVE, SECOND_EXTRUDER, tidy } from './pages';
import { type Answers, NONE, type PartQuestion, type Question } from './question';

/** The machine, or the questions it cannot be without. */
export type Described = { machine: Machine } | { open: Question[] };

/**
 * The machine file of a description. What nobody could answer is left out and named in `not_known`, so that it stands
 * there as a question; nothing is put in its place. What no question asks for is kept from the machine it was begun
 * from, as long as it still fits. The answers must fit their questions (`misfits`).
 */
export function machineFrom(description: Description, id: string, catalogue: Catalogue): Described {
  const open = openOf(description);
  if (open.length > 0) return { open };
  const { answers, base } = description;
  const [board = '', revision = ''] = text(answers, 'board').split(' ');
  const parts = partsFrom(answers, base);
  const frame = frameFrom(answers, base);
  const unsaid = leftOpen(description).map((question) => question.id);
  // Clips that were said to be there, and not how far they reach, are not none.
  const unplaced = answers['clips'] != null && answers['clips'] !== NONE && !frame.clips_mm && !unsaid.includes('clips'); // prettier-ignore
  const notKnown = unplaced ? [...unsaid, 'clips'] : unsaid;
  const sameBoard = base?.board.id === board && base.board.revision === revision;
  const mount = mountFrom(answers, base);
  const kit = base?.kit ?? newestKit(catalogue);
  const { note: _note, probe_mount: _mount, not_known: _open, ...kept } = base ?? {};
  return {
    machine: {
      ...kept,
      jolly: 'machine/1',
      id,
      name: text(answers, 'name'),
      place: text(answers, 'place'),
      ...(text(answers, 'note') && { note: text(answers, 'note') }),
      kit,
      board: {
        id: board,
        revision,
        ...(text(answers, 'board.marking') && { marking: text(answers, 'board.marking') }),
        ...(answers['board.seen'] !== true && { revision_seen: false }),
      },
      supply: { volts_v: figure(answers, 'supply.volts'), amps_a: figure(answers, 'supply.amps') },
      frame,
      axes: {
        ...byAxis(MOTOR_AXES, (axis) => driveFrom(answers, axis)),
        ...(answers['e.second'] === true &&
          answers[SECOND_DRIVE] === true && { e2: driveFrom(answers, 'e.second') }),
      },
      ...(mount && { probe_mount: mount }),
      parts,
      harness: sameBoard ? harnessKept(base, parts) : {},
      settings: settingsFrom(description),
      ...(notKnown.length > 0 && { not_known: notKnown }),
    },
  };
}

const text = (answers: Answers, id: string): string => {
  const value = answers[id];
  return typeof value === 'string' ? value : '';
};
const figure = (answers: Answers, id: string): number => {
  const value = answers[id];
  if (typeof value !== 'number') throw new Error(`"${id}" is needed and has no number`);
  return value;
};
const maybe = (answers: Answers, id: string): number | undefined => {
  const value = answers[id];
  return typeof value === 'number' ? value : undefined;
};
/** A record with an entry for each axis. */
const byAxis = <A extends string, T>(axes: readonly A[], of: (axis: A) => T): Record<A, T> =>
  Object.fromEntries(axes.map((axis) => [axis, of(axis)])) as Record<A, T>; // by its keys

function newestKit({ kits }: Catalogue): Machine['kit'] {
  const kit = kits.at(-1);
  if (!kit) throw new Error('no kit is installed');
  return { id: kit.id, version: kit.version };
}

/** The plate's left front corner is the origin, where the machine it was begun from has no other; the nozzle's travel is told by how far it goes past each edge. */
function frameFrom(answers: Answers, base: Machine | undefined): Machine['frame'] {
  const [width, depth] = [figure(answers, 'plate.width'), figure(answers, 'plate.depth')];
  const [left, front] = [base?.frame.bed_mm.x[0] ?? 0, base?.frame.bed_mm.y[0] ?? 0];
  const past = (edge: string) => figure(answers, `beyond.${edge}`);
  const side = (axis: Axis): 'min' | 'max' | undefined => {
    const at = answers[`end.${axis}`];
    return at === 'min' || at === 'max' ? at : undefined;
  };
  const { clips_mm: clips, ...kept } = base?.frame ?? {};
  return {
    ...kept,
    ...(answers['clips'] === 'own' && clips && { clips_mm: clips }),
    kinematics: text(answers, 'kinematics') as Machine['frame']['kinematics'], // one of its choices
    travel_mm: {
      x: [tidy(left - past('left')), tidy(left + width + past('right'))],
      y: [tidy(front - past('front')), tidy(front + depth + past('back'))],
      z: [0, figure(answers, 'height')],
    },
    bed_mm: { x: [left, tidy(left + width)], y: [front, tidy(front + depth)] },
    ...clipsFrom(answers, { left, front, width, depth }),
    switch_at: Object.fromEntries(AXES.flatMap((axis) => { const at = side(axis); return at ? [[axis, at]] : []; })), // prettier-ignore
  };
}

/** The strips along two edges that clips stand on. */
function clipsFrom(
  answers: Answers,
  { left, front, width, depth }: { left: number; front: number; width: number; depth: number },
): Pick<Machine['frame'], 'clips_mm'> {
  const reach = maybe(answers, 'clips.reach');
  const at = answers['clips'];
  if (reach === undefined || (at !== 'front-back' && at !== 'left-right')) return {};
  const x: Span = [left, tidy(left + width)];
  const y: Span = [front, tidy(front + depth)];
  const low = ([from]: Span): Span => [from, tidy(from + reach)];
  const high = ([, to]: Span): Span => [tidy(to - reach), to];
  return { clips_mm: at === 'front-back' ? [{ x, y: low(y) }, { x, y: high(y) }] : [{ x: low(x), y }, { x: high(x), y }] }; // prettier-ignore
}

const wayOf = (value: Answers[string] | undefined): AxisDrive['plus_is'] =>
  value === 'clockwise' || value === 'anticlockwise' ? value : undefined;

function driveFrom(answers: Answers, axis: DriveAnswers): AxisDrive {
  const gear = maybe(answers, `${axis}.gear`);
  const plus = wayOf(answers[`${axis}.plus`]);
  const speed = maybe(answers, `${axis}.speed`);
  const accel = maybe(answers, `${axis}.accel`);
  const seen = {
    ...(gear !== undefined && gear !== 1 && { gear_ratio: gear }),
    ...(plus && { plus_is: plus }),
    ...(speed !== undefined && { max_speed_mm_s: speed }),
    ...(accel !== undefined && { max_accel_mm_s2: accel }),
  };
  if (axis === 'e' || axis === 'e.second')
    return { kind: 'roller', diameter_mm: figure(answers, `${axis}.roller`), ...seen };
  return answers[`${axis}.kind`] === 'belt'
    ? { kind: 'belt', pitch_mm: figure(answers, `${axis}.pitch`), teeth: figure(answers, `${axis}.teeth`), ...seen } // prettier-ignore
    : { kind: 'screw', lead_mm: figure(answers, `${axis}.lead`), ...seen };
}

/** All parts of a probe's place must be known; half of it would put the probe somewhere. */
function mountFrom(answers: Answers, base: Machine | undefined): ProbeMount | undefined {
  const { 'mount.side': side, 'mount.face': face } = answers;
  const [sideMm, faceMm, zMm] = ['side_mm', 'face_mm', 'z_mm'].map((id) => maybe(answers, `mount.${id}`));
  if (text(answers, 'probe') === '' || answers['probe'] === NONE) return undefined;
  if ((side !== 'left' && side !== 'right') || (face !== 'front' && face !== 'back')) return undefined;
  if (sideMm === undefined || faceMm === undefined) return undefined;
  const stowed = base?.probe_mount?.stowed_mm;
  return {
    side,
    side_mm: sideMm,
    face,
    face_mm: faceMm,
    ...(zMm !== undefined && { z_mm: zMm }),
    ...(stowed !== undefined && { stowed_mm: stowed }),
  };
}

const isPart = (question: Question): question is PartQuestion => question.kind === 'part';

/** The parts that were named, and those of the machine it was begun from that no question asks for. */
function partsFrom(answers: Answers, base: Machine | undefined): MachinePart[] {
  const microsteps = Number(answers['microsteps']);
  const named = asked(answers)
    .filter(isPart)
    .flatMap(({ id, of, role, keptAs }): MachinePart[] => {
      const part = answers[id];
      if (typeof part !== 'string' || part === NONE) return [];
      if (of === 'driver') return driversFrom(answers, part, microsteps, base);
      const entry = { id: keptAs ?? PART_IDS[of]?.(role) ?? id, part, role };
      return id === 'motor.z' && answers['z.second'] === true
        ? [entry, { ...entry, id: 'z-motor-2' }]
        : [entry];
    });
  const asks = new Set([...QUESTIONS.filter(isPart).map(({ of, role }) => PART_IDS[of]?.(role)), 'z-motor-2', ...Object.values(SECOND_EXTRUDER), ...MOTOR_AXES.map((axis) => `${axis}-driver`)]); // prettier-ignore
  return [...named, ...(base?.parts.filter(({ id }) => !asks.has(id)) ?? [])];
}

/** One driver for each axis; where the machine it was begun from has others, they stay. */
function driversFrom(
  answers: Answers,
  part: string,
  microsteps: number,
  base: Machine | undefined,
): MachinePart[] {
  const drivers = MOTOR_AXES.map((axis): MachinePart => {
    const id = `${axis}-driver`;
    const was = base?.parts.find((entry) => entry.id === id);
    const first = base?.parts.find((entry) => entry.id === 'x-driver');
    // What has a driver of its own kind keeps it; what has X’s goes along with X.
    const own = was && first && was.part !== first.part;
    return { ...was, id, part: own ? was.part : part, role: axis, microsteps };
  });
  const ofSecond = { id: SECOND_EXTRUDER.driver, part, role: 'e', microsteps };
  const was = base?.parts.find(({ id }) => id === ofSecond.id);
  return answers['e.second'] === true ? [...drivers, was ?? ofSecond] : drivers;
}

/** Places of parts that are still there, on the board that is still the same. */
function harnessKept(base: Machine | undefined, parts: readonly MachinePart[]): Machine['harness'] {
  return Object.fromEntries(
    Object.entries(base?.harness ?? {}).filter(([part]) => parts.some(({ id }) => id === part)),
  );
}

/** What is said of the beeper; where nothing is said, what the machine it was begun from has. */
function beeperFrom(
  said: Answers[string] | undefined,
  was: OwnSetting | undefined,
): Record<string, OwnSetting> {
  if (said === false) return {};
  const beeper = said === true && was?.value !== true ? SAID_TO_BEEP : was;
  return beeper ? { [BEEPER]: beeper } : {};
}
const SAID_TO_BEEP: OwnSetting = { value: true, source: 'override', because: 'it has a beeper, as you said' };

/** Of the drives steps follow from; only the extruder's are tuned by measuring. */
const FOLLOWS = /^steps\.[xyz]$/;

/** Values that were measured on the old board come along with where they were read; so does what is told by a setting. */
function settingsFrom({ base, measured, answers }: Description): Record<string, OwnSetting> {
  const carried = Object.entries(measured ?? {})
    .filter(([key]) => !FOLLOWS.test(key))
    .map(([key, { value, because }]): [string, OwnSetting] => [key, { value, source: 'carried', because }]);
  const { [BEEPER]: was, ...kept } = base?.settings ?? {};
  return {
    ...kept,
    ...beeperFrom(answers['beeper'], was),
    ...Object.fromEntries(carried),
  };
}
