import type { Chip } from '../board/chip';
import { fitFeatures } from '../solver/fitFeatures';
import { BRIM } from '../build/fitFindings';
import type { ImageFeature } from './imageFeatures';
import type { Losses } from './leaveOut';

/** Bytes of flash and RAM. */
export interface Cost {
  flash: number;
  ram: number;
}

/** A feature with what becomes free without it, or what it would take where it is off; measured by building. */
export interface MeasuredFeature extends ImageFeature {
  cost: Cost;
  /** Keys of features that cannot be without it: they go first, and their cost is not counted here. */
  neededBy: string[];
  lost: Losses;
}

/** A feature that cannot be turned on this machine, and why. */
export interface BoundFeature extends ImageFeature {
  because: string;
}

/** The option that says how hard the compiler tries. */
export const EFFORT_KEY = 'compiler.effort';

/** What everything takes in the image of a machine, measured by building it with and without each feature. */
export interface Costs {
  /** The image with everything that is on. */
  whole: Cost;
  features: MeasuredFeature[];
  bound: BoundFeature[];
  /** What the other compiler effort makes smaller; missing where it is used already, or does not build. */
  effort?: {
    key: string;
    value: string;
    saves: Cost;
    /** What linking takes with either effort, in ms; missing in what was measured before it was looked at. */
    linkMs?: { plain: number; harder: number };
  };
}

export interface FitWish {
  /** What features are worth, by key; the kit's own worth where nothing is said. */
  worth: Readonly<Record<string, number>>;
  /** Keys of features that stay whatever they cost. */
  locked: readonly string[];
  /** Use the compiler effort that makes the image smaller. */
  harder: boolean;
  /** What real builds took more than the sum of single costs said. */
  correction?: Cost;
}

export interface FitChoice {
  kept: MeasuredFeature[];
  dropped: MeasuredFeature[];
  /** What the image would take, by the sum of single costs. */
  predicted: Cost;
}

/** Flash and RAM of a chip, less what keeps an image clear of the brim. */
export const roomOf = (chip: Pick<Chip, 'flash_bytes' | 'ram_bytes'>): Cost => ({
  flash: Math.floor(chip.flash_bytes * (1 - BRIM)),
  ram: Math.floor(chip.ram_bytes * (1 - BRIM)),
});

export const worthOf = (
  { key, worth }: Pick<ImageFeature, 'key' | 'worth'>,
  wish: Pick<FitWish, 'worth'>,
): number => wish.worth[key] ?? worth;

/**
 * What to keep of the features that are on so that the image fits into a room (bytes): the most worth, by `fitFeatures`, if
 * every cost added up. Where features share code they do not; `correction` brings in what a real build showed.
 */
export function chooseFit(costs: Costs, room: Cost, wish: FitWish): FitChoice | { short: Cost } {
  const on = costs.features.filter((feature) => feature.on);
  const { flash, ram } = baseOf(costs, on, wish);
  const features = on.map((feature) => ({
    id: feature.key,
    ...feature.cost,
    worth: worthOf(feature, wish),
    needs: on.filter(({ neededBy }) => neededBy.includes(feature.key)).map(({ key }) => key),
    locked: wish.locked.includes(feature.key),
  }));
  const found = fitFeatures({
    features: [{ id: REST, flash, ram, worth: 0, locked: true }, ...features],
    flashFree: room.flash,
    ramFree: room.ram,
  });
  if ('infeasible' in found) return { short: { flash: found.shortFlash, ram: found.shortRam } };
  const drop = new Set(found.drop);
  return {
    kept: on.filter(({ key }) => !drop.has(key)),
    dropped: on.filter(({ key }) => drop.has(key)),
    predicted: { flash: found.flash, ram: found.ram },
  };
}

const REST = '(the rest)';

/** What is in the image whatever is left out. */
function baseOf({ whole, effort }: Costs, on: readonly MeasuredFeature[], wish: FitWish): Cost {
  const rest = (kind: keyof Cost) => {
    const features = on.reduce((total, { cost }) => total + cost[kind], 0);
    const saves = wish.harder ? (effort?.saves[kind] ?? 0) : 0;
    return Math.max(0, whole[kind] - features - saves) + (wish.correction?.[kind] ?? 0);
  };
  return { flash: rest('flash'), ram: rest('ram') };
}

/** What a real build took more than was predicted, added to what was known of that before. */
export const corrected = (before: Cost | undefined, predicted: Cost, made: Cost): Cost => ({
  flash: (before?.flash ?? 0) + Math.max(0, made.flash - predicted.flash),
  ram: (before?.ram ?? 0) + Math.max(0, made.ram - predicted.ram),
});
