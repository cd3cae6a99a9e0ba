import type { Facts } from '../machine/facts';
import { atomsInWords, factAtoms, type FactKey, otherThan, sameInWords } from '../machine/touched';
import type { Settings } from '../settings/setting';
import { asSentence } from '../text/asSentence';
import { type Calibration, calibrationsOf } from './calibrations';
import { withMinus } from './calibrationTool';
import { type LeftAside, leftAside } from './leftAside';
import type { Measured } from './measured';

/** Something that a job left to be measured. */
export interface LeftDue {
  id: string;
  because: string;
  sinceMs: number;
}

/** How a calibration stands: due, not due, or nobody knows because no measurement is on record. */
export interface Upkeep {
  id: string;
  title: string;
  state: 'due' | 'not due' | 'not known';
  because: string;
  /** When it was measured last, if that is on record. */
  lastMs?: number;
  /** When it falls due by time alone. */
  dueMs?: number;
  /** Due because of what was measured and the machine file does not have. */
  aside?: readonly LeftAside[];
}

const DAY_MS = 86_400_000;

/** Whole days of 24 hours: what is a day of the calendar depends on where one is. */
const daysInWords = (days: number): string =>
  days < 1 ? 'less than a day ago' : days < 2 ? 'a day ago' : `${Math.floor(days)} days ago`;

/** The facts a calibration rests on as they are now, in words, to be kept with what is measured. */
export function measuredWith(facts: Facts, id: string): Record<FactKey, string> {
  const atoms = factAtoms(facts);
  const restsOn = calibrationsOf(facts).find((one) => one.id === id)?.restsOn ?? [];
  return Object.fromEntries(
    restsOn.filter((key) => atoms.has(key)).map((key) => [key, atomsInWords(atoms.get(key))]),
  );
}

/**
 * What is due on a machine and what is not, each with its reason, in the order it is measured in. Left by a job: due; measured
 * with other facts, or poor, or too long ago, or measured and not in the machine file: due; never on record: not known.
 * @param settings what follows from the facts
 * @param measured what is on record, in any order
 */
export function upkeepOf(
  facts: Facts,
  settings: Settings,
  { measured, left, nowMs }: { measured: readonly Measured[]; left: readonly LeftDue[]; nowMs: number },
): Upkeep[] {
  const last = new Map<string, Measured>();
  for (const one of measured)
    if (one.atMs >= (last.get(one.calibration)?.atMs ?? -Infinity)) last.set(one.calibration, one);
  const aside = leftAside(settings, [...last.values()]);
  const calibrations = calibrationsOf(facts);
  const kept = calibrations.map((calibration): Upkeep => {
    const one = last.get(calibration.id);
    const { id, title } = calibration;
    const begun = { id, title, ...(one && { lastMs: one.atMs }) };
    const job = left.find((entry) => entry.id === id);
    if (job && job.sinceMs >= (one?.atMs ?? -Infinity))
      return { ...begun, state: 'due', because: job.because };
    const own = aside.filter((entry) => entry.calibration === id);
    return { ...begun, ...standing(facts, calibration, one, own, nowMs) };
  });
  const others = aside.filter(({ calibration }) => !calibrations.some(({ id }) => id === calibration));
  return [...kept, ...othersLeft(others, last, nowMs)];
}

/** What never falls due by itself: told only when it was measured and the machine file does not have it. */
const TITLES: Readonly<Record<string, string>> = { lead: 'Extrusion lead', corners: 'Corners' };

function othersLeft(
  aside: readonly LeftAside[],
  last: ReadonlyMap<string, Measured>,
  nowMs: number,
): Upkeep[] {
  return [...new Set(aside.map(({ calibration }) => calibration))].map((id): Upkeep => {
    const own = aside.filter(({ calibration }) => calibration === id);
    const lastMs = last.get(id)?.atMs ?? nowMs;
    const because = asideInWords(daysInWords((nowMs - lastMs) / DAY_MS), own);
    return { id, title: TITLES[id] ?? own[0]?.label ?? id, state: 'due', because, lastMs, aside: own };
  });
}

function standing(
  facts: Facts,
  calibration: Calibration,
  last: Measured | undefined,
  aside: readonly LeftAside[],
  nowMs: number,
): Pick<Upkeep, 'state' | 'because' | 'dueMs' | 'aside'> {
  if (!last) return { state: 'not known', because: 'No measurement of it is on record.' };
  const ago = daysInWords((nowMs - last.atMs) / DAY_MS);
  if (last.outcome === 'poor')
    return { state: 'due', because: `It was measured ${ago}, and was not good enough.` };
  const changed = changedSince(facts, last);
  if (changed) return { state: 'due', because: changed };
  if (aside.length > 0) return { state: 'due', because: asideInWords(ago, aside), aside };
  const dueMs = calibration.everyDays === undefined ? undefined : last.atMs + calibration.everyDays * DAY_MS;
  const since = `${last.outcome === 'done' ? 'Done' : 'Measured'} ${ago}`;
  if (dueMs !== undefined && nowMs >= dueMs)
    return {
      state: 'due',
      because: `${since}; it wanders, and is due every ${calibration.everyDays} days.`,
      dueMs,
    };
  return {
    state: 'not due',
    because: `${since}. Not due ${calibration.notAfter}.`,
    ...(dueMs !== undefined && { dueMs }),
  };
}

function asideInWords(ago: string, aside: readonly LeftAside[]): string {
  const each = aside.map(({ label, unit, measured, has }) => {
    const of = unit === '' ? '' : ` ${unit}`;
    return `${label} ${measured}${of}, where the machine file has ${has}${of}`;
  });
  return withMinus(`Measured ${ago}: ${each.join('; ')}. Take it over, or measure again.`);
}

/** The first fact that is another one than when it was measured. */
function changedSince(facts: Facts, last: Measured): string | undefined {
  const atoms = factAtoms(facts);
  for (const [key, was] of Object.entries(last.with)) {
    const now = atomsInWords(atoms.get(key));
    if (!sameInWords(now, was)) return asSentence(otherThan(key, was, now, 'measured'));
  }
  return undefined;
}
