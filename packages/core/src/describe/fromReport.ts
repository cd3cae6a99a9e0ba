import type { Catalogue } from '../catalogue/catalogue';
import { inUnitOf } from '../settings/carryOver';
import { parseDump, type DumpValue } from '../report/parseDump';
import { MOTOR_AXES, type MotorAxis } from '../machine/machine';
import { likelyDrives, type LikelyDrive, type LookAt } from '../motion/likelyDrives';
import { type Description, NEW_DESCRIPTION } from './description';
import { questionOf } from './pages';
import type { Answers, AnswerValue } from './question';

/** What a settings report of the old board says about a machine nobody has described yet. */
export interface FromReport {
  description: Description;
  /** Lines that no dialect reads. */
  unread: number;
  /** Values that were taken. */
  taken: number;
}

/** Values a question asks for: what the board was told is known to go well. */
const ANSWERED = /^(speed|accel)\.([xyze])$/;
/** Values that were measured, and hold as long as what they were measured with is there. */
const MEASURED = /^(pid\.(hotend|bed)\.[pid]|current\.[xyze]|steps\.[xyze])$/;
const OFFSET = /^probe\.offset\.[xyz]$/;

/**
 * Begins a description from the text of a settings report. Steps/mm are kept as what they are, so that trains can be
 * ranked by them (`trainsOf`); nothing that was not said is answered.
 * @throws {CalcError} when the text is longer than a report may be
 */
export function fromReport(
  report: string,
  { dialects, kits }: Pick<Catalogue, 'dialects' | 'kits'>,
): FromReport {
  const { values, unread } = parseDump({ text: report, dialects: [...dialects] });
  const lines = report.split('\n');
  const where = ({ line }: DumpValue) =>
    `the settings report, line ${line}: ${lines[line - 1]?.trim().slice(0, 120) ?? ''}`;
  const answers: Record<string, AnswerValue> = {};
  const origins: Record<string, string> = {};
  const measured: Record<string, { value: number; because: string }> = {};
  for (const told of values) {
    const key = keyOf(told);
    const option = kits.at(-1)?.options.find((entry) => entry.key === key);
    const value = option && inUnitOf(option, told);
    if (typeof value !== 'number') continue;
    const [, of, axis] = ANSWERED.exec(key) ?? [];
    const found = of ? { [`${axis}.${of}`]: value } : OFFSET.test(key) ? mountOf(key, value) : {};
    for (const [id, answer] of Object.entries(found)) {
      if (typeof answer === 'number' && !fits(id, answer)) continue;
      answers[id] = answer;
      origins[id] = where(told);
    }
    if (MEASURED.test(key)) measured[key] = { value, because: `read from ${where(told)}` };
  }
  const taken = Object.keys(answers).length + Object.keys(measured).length;
  return {
    description: { ...NEW_DESCRIPTION, answers, origins, measured, report },
    unread: unread.length,
    taken,
  };
}

const keyOf = ({ key, axis }: DumpValue): string => (axis === undefined || key.endsWith(`.${axis}`) ? key : `${key}.${axis}`); // prettier-ignore

function fits(id: string, value: number): boolean {
  const question = questionOf(id);
  return question?.kind === 'number' && value >= question.range[0] && value <= question.range[1];
}

/** A probe's offset is told from the nozzle: minus is left of it, and before it. */
function mountOf(key: string, value: number): Record<string, AnswerValue> {
  if (key.endsWith('.x'))
    return { 'mount.side': value < 0 ? 'left' : 'right', 'mount.side_mm': Math.abs(value) };
  if (key.endsWith('.y'))
    return { 'mount.face': value < 0 ? 'front' : 'back', 'mount.face_mm': Math.abs(value) };
  return { 'mount.z_mm': value };
}

/** Which trains fit what the board reports of an axis and what was answered so far. */
export interface Trains {
  axis: MotorAxis;
  stepsPerMm: number;
  /** Best first, their likelihoods adding to 1. */
  ranked: LikelyDrive[];
  lookAt: LookAt | null;
}

/** Of every axis whose steps/mm the old board reported. */
export function trainsOf({ answers, measured }: Description): Trains[] {
  return MOTOR_AXES.flatMap((axis): Trains[] => {
    const told = measured?.[`steps.${axis}`]?.value;
    if (told === undefined || told <= 0) return [];
    // The extruder's was tuned by measuring: it lies beside what its train alone would give.
    const { ranked, lookAt } = likelyDrives({
      axis,
      stepsPerMm: told,
      ...(axis === 'e' && { tolerancePct: 4 }),
    });
    const left = ranked.filter((drive) => isPossible(axis, drive, answers));
    const all = left.reduce((sum, { likelihood }) => sum + likelihood, 0);
    return [
      {
        axis,
        stepsPerMm: told,
        ranked: left.map((drive) => ({ ...drive, likelihood: drive.likelihood / all })),
        lookAt,
      },
    ];
  });
}

const SIZES = ['kind', 'pitch', 'teeth', 'lead', 'roller', 'gear'] as const;

/** Whether a train is what was answered so far: a pulley whose teeth were counted is no screw. */
function isPossible(axis: MotorAxis, drive: LikelyDrive, answers: Answers): boolean {
  const is: Answers = { [`${axis}.gear`]: 1, ...Object.fromEntries(entries(axis, drive)) };
  return [...SIZES.map((size) => `${axis}.${size}`), 'microsteps'].every(
    (id) => answers[id] == null || answers[id] === is[id],
  );
}

/** The answers that a train is. */
export function entries(axis: MotorAxis, drive: LikelyDrive): [id: string, size: AnswerValue][] {
  const motor: [string, AnswerValue][] = [['microsteps', String(drive.microsteps)]];
  if (drive.kind === 'roller') return [[`${axis}.roller`, drive.diameterMm], [`${axis}.gear`, drive.gearRatio ?? 1], ...motor]; // prettier-ignore
  const kind: [string, AnswerValue] = [`${axis}.kind`, drive.kind];
  if (drive.kind === 'screw') return [kind, [`${axis}.lead`, drive.leadMm], ...motor];
  return [kind, [`${axis}.pitch`, drive.pitchMm], [`${axis}.teeth`, drive.teeth], ...motor];
}

/** What to do to know a size. */
export const HOW_TO_LOOK: Readonly<Record<LookAt, string>> = {
  kind: 'See whether a belt or a screw moves it.',
  fullSteps: 'Read the degrees a step on the motor’s label: 1.8° is 200, 0.9° is 400.',
  microsteps: 'Look at the jumpers under the driver modules; a module without any says it in its data.',
  pitchMm: 'Read the number on the belt, or measure ten teeth and divide by ten.',
  teeth: 'Count the teeth of the motor’s pulley.',
  leadMm: 'Turn the screw ten times by hand, unplugged, measure how far the axis went, divide by ten.',
  diameterMm: 'Measure the drive roller over its teeth with a calliper.',
  gearRatio: 'Count the teeth of both gears between motor and roller.',
};
