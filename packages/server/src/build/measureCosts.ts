import {
  type BoundFeature,
  type Cost,
  type Costs,
  EFFORT_KEY,
  type MeasuredFeature,
} from '@jolly/core/fit/chooseFit';
import { imageFeatures } from '@jolly/core/fit/imageFeatures';
import type { ImageFeature } from '@jolly/core/fit/imageFeatures';
import { factsTurned, goesWith, lossesOf } from '@jolly/core/fit/leaveOut';
import type { Sizes } from '@jolly/core/build/sizes';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { effortOf } from './buildInput';

interface Built {
  sizes: Sizes;
  linkMs: number;
}
export type Sized = Built | { failed: string };

/** Builds the images of machines only to know their sizes. */
export interface Measuring {
  catalogue: Catalogue;
  build: (facts: Facts) => Promise<Sized>;
  /** What is being built, and how many of how many are done. */
  progress?: (doing: string, done: number, total: number) => void;
}

export const costOf = ({ flashBytes, ramBytes }: Sizes): Cost => ({ flash: flashBytes, ram: ramBytes });
/** Sizes never fall below nothing: the linker may place a little otherwise. */
const less = (one: Cost, other: Cost): Cost => ({
  flash: Math.max(0, one.flash - other.flash),
  ram: Math.max(0, one.ram - other.ram),
});

/**
 * What every feature takes in a machine's image: of those that are on, what becomes free without each; of those that are
 * off, what each would take. Each is really built; only sources that a feature touches are compiled.
 */
export async function measureCosts(facts: Facts, work: Measuring): Promise<Costs | { failed: string }> {
  const { catalogue, progress = () => undefined } = work;
  const all = imageFeatures({ kit: facts.kit, settings: derive(facts) });
  const total = all.length + 2;
  let done = 0;
  const build = (doing: string, given: Facts): Promise<Sized> => {
    progress(doing, done, total);
    return work.build(given);
  };
  const whole = await build('everything that is on', facts);
  if ('failed' in whole) return whole;
  const features: MeasuredFeature[] = [];
  const bound: BoundFeature[] = [];
  for (const feature of all) {
    done += 1;
    const found = await measureOne(feature, all, { facts, catalogue, whole, build });
    if ('because' in found) bound.push(found);
    else features.push(found);
  }
  done += 1;
  const effort = await measureEffort(facts, { catalogue, whole, build });
  return { whole: costOf(whole.sizes), features, bound, ...(effort && { effort }) };
}

interface Against {
  catalogue: Catalogue;
  whole: Built;
  build: (doing: string, given: Facts) => Promise<Sized>;
}

async function measureOne(
  feature: ImageFeature,
  all: readonly ImageFeature[],
  { facts, catalogue, whole, build }: Against & { facts: Facts },
): Promise<MeasuredFeature | BoundFeature> {
  const free = feature.on ? all.filter(({ on }) => on) : [];
  const along = goesWith(facts, catalogue, feature, free);
  if ('because' in along) return { ...feature, because: along.because };
  const { others } = along;
  const turned = (features: ImageFeature[]) => factsTurned(facts, catalogue, features);
  // What needs it goes first: only what becomes free beyond that is its own.
  const before = others.length === 0 ? whole : await build(`without what needs ${feature.label}`, turned(others)); // prettier-ignore
  const made = await build(`${feature.on ? 'without' : 'with'} ${feature.label}`, turned([feature, ...others])); // prettier-ignore
  if ('failed' in before) return { ...feature, because: before.failed };
  if ('failed' in made) return { ...feature, because: made.failed };
  const [one, other] = [costOf(before.sizes), costOf(made.sizes)];
  return {
    ...feature,
    cost: feature.on ? less(one, other) : less(other, one),
    neededBy: others.map(({ key }) => key),
    lost: feature.on ? lossesOf(facts, catalogue, [feature, ...others]) : { commands: [], actions: [], findings: [] }, // prettier-ignore
  };
}

const HARDER = 'across-sources';

async function measureEffort(facts: Facts, { catalogue, whole, build }: Against): Promise<Costs['effort']> {
  if (effortOf(derive(facts)) === HARDER || !derive(facts).has(EFFORT_KEY)) return undefined;
  const made = await build('with more compiler effort', withHarder(facts, catalogue));
  return 'failed' in made
    ? undefined
    : {
        key: EFFORT_KEY,
        value: HARDER,
        saves: less(costOf(whole.sizes), costOf(made.sizes)),
        linkMs: { plain: whole.linkMs, harder: made.linkMs },
      };
}

/** The same machine, compiled with the effort that makes the image smaller. */
export function withHarder(facts: Facts, catalogue: Catalogue): Facts {
  const resolved = resolve(applyEdits(facts.machine, [overrideEdit(EFFORT_KEY, HARDER, 'so that the image fits')]), catalogue); // prettier-ignore
  if ('problems' in resolved) throw new Error(resolved.problems[0].message);
  return { ...resolved.facts, chip: facts.chip };
}
