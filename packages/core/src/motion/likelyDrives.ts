import Joi from 'joi';
import { calculation, positive } from '../calculation/calculation';
import { once } from '../tree/once';
import { type Drive, stepsPerMm } from './stepsPerMm';

type Axis = 'x' | 'y' | 'z' | 'e';
interface Input {
  axis: Axis;
  stepsPerMm: number;
  tolerancePct?: number;
}
export type LikelyDrive = Drive & { stepsPerMm: number; likelihood: number };
/** What can be counted or read at the machine to tell trains apart. */
export type LookAt =
  'kind' | 'fullSteps' | 'microsteps' | 'pitchMm' | 'teeth' | 'leadMm' | 'diameterMm' | 'gearRatio';
interface Output {
  /** Most likely first; likelihoods add to 1. Empty when nothing that is sold comes near. */
  ranked: LikelyDrive[];
  /** Null when one train stands alone, or nothing to look at parts those that are left. */
  lookAt: LookAt | null;
}

/** A size that is sold, and how often it is met beside the others. */
type Sold = readonly (readonly [size: number, often: number])[];

const FULL_STEPS: Sold = [[200, 10], [400, 2]]; // prettier-ignore
const MICROSTEPS: Sold = [[1, 0.2], [2, 0.3], [4, 0.5], [8, 1], [16, 10], [32, 4], [64, 1], [128, 0.6], [256, 0.4]]; // prettier-ignore
const PITCHES: Sold = [[2, 10], [2.5, 1], [3, 1.5], [5, 0.5]]; // prettier-ignore
const TEETH: Sold = [[8, 0.2], [10, 0.4], [12, 0.8], [14, 0.8], [15, 0.5], [16, 6], [17, 0.5], [18, 1], [20, 10], [24, 1], [30, 0.7], [32, 0.7], [36, 0.5], [40, 0.5]]; // prettier-ignore
const LEADS: Sold = [[0.8, 1], [1, 2], [1.25, 1.5], [2, 3], [3, 1], [4, 3], [5, 1], [8, 10], [10, 1], [12, 0.8]]; // prettier-ignore
const DIAMETERS: Sold = [[6.8, 0.6], [7, 1], [7.3, 1], [8, 1.5], [8.5, 0.6], [9, 1], [10, 1.5], [10.5, 1.5], [10.8, 2], [11, 3], [11.5, 1], [12, 2]]; // prettier-ignore
const DIRECT: Sold = [[1, 1]];
const GEARS: Sold = [[1, 10], [2, 0.7], [3, 4], [3.5, 3], [4, 0.7], [5, 2.5], [5.2, 0.6], [7.5, 0.6], [10, 0.5]]; // prettier-ignore

/** How often each kind of train drives an axis. */
const KINDS: Readonly<Record<Axis, Partial<Record<Drive['kind'], number>>>> = {
  x: { belt: 20, screw: 1 },
  y: { belt: 20, screw: 1 },
  z: { screw: 12, belt: 1 },
  e: { roller: 1 },
};

interface Train {
  drive: Drive;
  often: number;
}

/** Every train of an axis that can be put together from what is sold. */
function trains(axis: Axis): Train[] {
  const { belt, screw, roller } = KINDS[axis];
  const motors = product(FULL_STEPS, MICROSTEPS);
  const of = (often: number | undefined, sizes: [number[], number][], drive: (sizes: number[]) => Drive) =>
    often === undefined ? [] : sizes.map(([size, times]) => ({ drive: drive(size), often: often * times }));
  return [
    ...of(belt, product(motors, PITCHES, TEETH), ([fullSteps = 0, microsteps = 0, pitchMm = 0, teeth = 0]) => ({ kind: 'belt', fullSteps, microsteps, pitchMm, teeth })),
    ...of(screw, product(motors, LEADS), ([fullSteps = 0, microsteps = 0, leadMm = 0]) => ({ kind: 'screw', fullSteps, microsteps, leadMm })),
    ...of(roller, product(motors, DIAMETERS, axis === 'e' ? GEARS : DIRECT), ([fullSteps = 0, microsteps = 0, diameterMm = 0, gearRatio = 1]) => ({ kind: 'roller', fullSteps, microsteps, diameterMm, gearRatio })),
  ]; // prettier-ignore
}

/** Every combination of the sizes of several lists, with how often all of them are met together. */
function product(...lists: (Sold | [number[], number][])[]): [number[], number][] {
  return lists.reduce<[number[], number][]>(
    (so, list) =>
      so.flatMap(([sizes, often]) =>
        list.map(([size, times]): [number[], number] => [[...sizes, ...[size].flat()], often * times]),
      ),
    [[[], 1]],
  );
}

/** Put together when first asked for: some thousands, and most windows ask for none. */
const BY_AXIS = { x: once(() => trains('x')), y: once(() => trains('y')), z: once(() => trains('z')), e: once(() => trains('e')) }; // prettier-ignore
const TOLERANCE_PCT = 0.5;

/**
 * Which drive trains, out of what is sold, give the steps/mm that a board reports, best first. The likelihood of a train
 * is how often its sizes are met, times how near it comes: a bell curve that has fallen to e⁻² at the tolerance
 * (default 0.5 %, 0.001 to 10). `lookAt` is the size whose knowing leaves the least doubt (least expected entropy).
 * Steps/mm above 0.
 */
export const likelyDrives = calculation<Input, Output>(
  'likelyDrives',
  () =>
    Joi.object({
      axis: Joi.valid('x', 'y', 'z', 'e'),
      stepsPerMm: positive(),
      tolerancePct: Joi.number().min(0.001).max(10).optional(),
    }),
  ({ axis, stepsPerMm: told, tolerancePct = TOLERANCE_PCT }) => {
    const near = BY_AXIS[axis]().flatMap(({ drive, often }): LikelyDrive[] => {
      const steps = stepsPerMm.ofChecked(drive);
      const off = (100 * (steps - told)) / told / tolerancePct;
      // A sum of binary fractions may lie a hair outside its own tolerance.
      if (Math.abs(off) > 1 + 1e-9) return [];
      return [{ ...drive, stepsPerMm: steps, likelihood: often * Math.exp(-2 * off * off) }];
    });
    const all = near.reduce((sum, { likelihood }) => sum + likelihood, 0);
    const ranked = near
      .map((drive) => ({ ...drive, likelihood: drive.likelihood / all }))
      .sort((one, other) => other.likelihood - one.likelihood);
    return { ranked, lookAt: bestLook(ranked) };
  },
);

const LOOKS: readonly LookAt[] = ['teeth', 'leadMm', 'diameterMm', 'gearRatio', 'fullSteps', 'kind', 'pitchMm', 'microsteps']; // prettier-ignore

function bestLook(ranked: readonly LikelyDrive[]): LookAt | null {
  if (ranked.length < 2) return null;
  const doubt = LOOKS.map((look) => ({ look, left: doubtAfter(ranked, look) }));
  const before = entropy(ranked.map(({ likelihood }) => likelihood));
  const best = doubt.reduce((one, other) => (other.left < one.left - 1e-9 ? other : one));
  return best.left < before - 1e-9 ? best.look : null;
}

/** The doubt that is left on average once this size is known. */
function doubtAfter(ranked: readonly LikelyDrive[], look: LookAt): number {
  const groups = new Map<unknown, number[]>();
  for (const drive of ranked) {
    const size: unknown = Object.entries(drive).find(([key]) => key === look)?.[1];
    groups.set(size, [...(groups.get(size) ?? []), drive.likelihood]);
  }
  return [...groups.values()].reduce((sum, group) => sum + entropy(group), 0);
}

/** Of shares of a whole, each weighed by the group's own part of it. */
function entropy(shares: readonly number[]): number {
  const all = shares.reduce((sum, share) => sum + share, 0);
  return shares.reduce((sum, share) => (share > 0 ? sum - share * Math.log(share / all) : sum), 0);
}
