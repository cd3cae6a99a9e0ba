import type { Removable } from '@jolly/core/build/removable';
import { removable } from '@jolly/core/build/removable';
import { BRIM } from '@jolly/core/build/fitFindings';
import type { Sizes } from '@jolly/core/build/sizes';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { check } from '@jolly/core/checks/checks';
import type { Finding } from '@jolly/core/finding/finding';
import { stopping } from '@jolly/core/finding/stopping';
import { applyEdits, overrideEdit } from '@jolly/core/machine/edit';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { fitFeatures } from '@jolly/core/solver/fitFeatures';

/** What a feature takes in this machine's image: what becomes free when it is left out, measured by building without it. */
export interface Cost {
  flash: number;
  ram: number;
}
export interface Fit {
  /** The image with everything that is on now. */
  before: Sizes;
  dropped: (Removable & Cost)[];
  kept: (Removable & Cost)[];
  /** Features that cannot be left out here, and why. */
  bound: (Removable & { because: string })[];
  /** Of the image without what is dropped, as it was really built. */
  after: Sizes;
  builds: number;
}
export type FitOutcome = Fit | { cannot: string; builds: number };

type Sized = { sizes: Sizes } | { failed: string };
export interface FitWork {
  facts: Facts;
  catalogue: Catalogue;
  /** Builds the image of a machine, to know its sizes. */
  build: (facts: Facts) => Promise<Sized>;
  /** Features that must stay, by key. */
  keep: ReadonlySet<string>;
  /** What each is worth to its user; 1 where nothing is said. */
  worth: ReadonlyMap<string, number>;
  /** What is being built, and how many builds are done of how many, as far as that is known. */
  progress?: (doing: string, done: number, total: number) => void;
}

/** So often the sum of single costs is put right by what was really built. */
const MOST_ROUNDS = 6;

/**
 * Finds what to leave out so that the image fits with room to spare: measures every feature by building without it,
 * chooses by worth (`fitFeatures`), and builds what was chosen. Where features share code their costs do not add up; then
 * the sum is corrected by what was really built, until it fits.
 */
export async function fitImage(work: FitWork): Promise<FitOutcome> {
  const { facts, keep, progress = () => undefined } = work;
  const all = removable({ kit: facts.kit, settings: derive(facts) });
  const total = all.length + 2;
  let builds = 0;
  const build = async (doing: string, given: Facts): Promise<Sized> => {
    progress(doing, builds, total);
    builds += 1;
    return work.build(given);
  };
  const whole = await build('everything', facts);
  if ('failed' in whole) return { cannot: `it does not build as it is: ${whole.failed}`, builds };
  const before = whole.sizes;
  const [flashFree, ramFree] = [facts.chip.flash_bytes, facts.chip.ram_bytes].map((has) =>
    Math.floor(has * (1 - BRIM)),
  ) as [number, number]; // two of two
  const bound: (Removable & { because: string })[] = [];
  const measured: Measured[] = [];
  for (const feature of all) {
    const along = keep.has(feature.key) ? { because: 'it shall be kept' } : goesWith(work, all, feature);
    if ('because' in along) {
      bound.push({ ...feature, ...along });
      continue;
    }
    // What needs it goes first: only what becomes free beyond that is its own.
    const { others } = along;
    const first = others.length === 0 ? whole : await build(`without what needs ${feature.label}`, factsWithout(work, others)); // prettier-ignore
    const without = await build(`without ${feature.label}`, factsWithout(work, [...others, feature.key]));
    if ('failed' in first)
      bound.push({ ...feature, because: `without it nothing is built: ${first.failed}` });
    else if ('failed' in without)
      bound.push({ ...feature, because: `without it nothing is built: ${without.failed}` }); // prettier-ignore
    else measured.push({ ...feature, ...costOf(first.sizes, without.sizes), neededBy: others });
  }
  let correction: Cost = { flash: 0, ram: 0 };
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const chosen = choose(work, before, measured, correction, { flashFree, ramFree });
    if ('cannot' in chosen) return { ...chosen, builds };
    const { dropped, kept, predicted } = chosen;
    const made = dropped.length === 0 ? whole : await build('what was chosen', factsWithout(work, dropped.map(({ key }) => key))); // prettier-ignore
    if ('failed' in made) return { cannot: `what was chosen does not build: ${made.failed}`, builds };
    const { flashBytes, ramBytes } = made.sizes;
    if (flashBytes <= flashFree && ramBytes <= ramFree)
      return { before, dropped, kept, bound, after: made.sizes, builds };
    correction = {
      flash: correction.flash + Math.max(0, flashBytes - predicted.flash),
      ram: correction.ram + Math.max(0, ramBytes - predicted.ram),
    };
  }
  return { cannot: `after ${MOST_ROUNDS} corrections what was chosen is still too large`, builds };
}

/** Sizes never fall below nothing: the linker may place a little otherwise. */
const costOf = (before: Sizes, without: Sizes): Cost => ({
  flash: Math.max(0, before.flashBytes - without.flashBytes),
  ram: Math.max(0, before.ramBytes - without.ramBytes),
});

/** A feature with what it takes, and the features that cannot be without it. */
type Measured = Removable & Cost & { neededBy: readonly string[] };

interface Chosen {
  dropped: (Removable & Cost)[];
  kept: (Removable & Cost)[];
  predicted: Cost;
}

/** The best by worth, if every cost added up, on top of what is built in any case. */
function choose(
  { worth }: FitWork,
  before: Sizes,
  measured: readonly Measured[],
  correction: Cost,
  room: { flashFree: number; ramFree: number },
): Chosen | { cannot: string } {
  const sum = (key: keyof Cost) => measured.reduce((total, feature) => total + feature[key], 0);
  const base = {
    id: '(the rest)',
    flash: Math.max(0, before.flashBytes - sum('flash')) + correction.flash,
    ram: Math.max(0, before.ramBytes - sum('ram')) + correction.ram,
    worth: 0,
    locked: true,
  };
  const features = measured.map(({ key, flash, ram }) => ({
    id: key,
    flash,
    ram,
    worth: worth.get(key) ?? 1,
    needs: measured.filter(({ neededBy }) => neededBy.includes(key)).map((other) => other.key),
  }));
  const found = fitFeatures({ features: [base, ...features], ...room });
  if ('infeasible' in found) {
    const short = [found.shortFlash > 0 && `${found.shortFlash} bytes of flash`, found.shortRam > 0 && `${found.shortRam} bytes of RAM`].filter(Boolean); // prettier-ignore
    return { cannot: `${short.join(' and ')} are missing even without everything that can be left out` };
  }
  const drop = new Set(found.drop);
  return {
    dropped: measured.filter(({ key }) => drop.has(key)),
    kept: measured.filter(({ key }) => !drop.has(key)),
    predicted: { flash: found.flash, ram: found.ram },
  };
}

function factsWithout({ facts, catalogue }: FitWork, keys: readonly string[]): Facts {
  const machine = applyEdits(facts.machine, keys.map((key) => overrideEdit(key, false, 'left out so that the image fits'))); // prettier-ignore
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) throw new Error(resolved.problems[0].message);
  return { ...resolved.facts, chip: facts.chip };
}

/**
 * What has to go along when a feature is left out, because a finding that stops would come of it alone; or, where nothing
 * that can be left out helps, that finding.
 */
function goesWith(
  work: FitWork,
  all: readonly Removable[],
  { key }: Removable,
): { others: string[] } | { because: string } {
  const stops = (facts: Facts) => stopping(check(facts, derive(facts)));
  const had = new Set(stops(work.facts).map(nameOf));
  const fresh = (keys: readonly string[]) => stops(factsWithout(work, keys)).filter((stop) => !had.has(nameOf(stop))); // prettier-ignore
  const others: string[] = [];
  for (;;) {
    const [stop] = fresh([key, ...others]);
    if (!stop) return { others };
    const helps = all.find((other) => other.key !== key && !others.includes(other.key) && !work.keep.has(other.key) && !fresh([key, ...others, other.key]).some((left) => nameOf(left) === nameOf(stop))); // prettier-ignore
    if (!helps) return { because: stop.what };
    others.push(helps.key);
  }
}

const nameOf = ({ id, subject }: Finding): string => `${id} ${subject.id}`;
