import {
  chooseFit,
  type BoundFeature,
  corrected,
  type Cost,
  type FitChoice,
  type FitWish,
  roomOf,
} from '@jolly/core/fit/chooseFit';
import { factsTurned } from '@jolly/core/fit/leaveOut';
import type { Facts } from '@jolly/core/machine/facts';
import { costOf, measureCosts, type Measuring, withHarder } from './measureCosts';

export interface Fit {
  /** The image with everything that is on now. */
  before: Cost;
  dropped: FitChoice['dropped'];
  kept: FitChoice['kept'];
  /** Features that cannot be left out here, and why. */
  bound: BoundFeature[];
  /** Whether the compiler tries harder than before. */
  harder: boolean;
  /** Of the image as it was really built in the end. */
  after: Cost;
  builds: number;
}
export type FitOutcome = Fit | { cannot: string; builds: number };

export interface FitWork extends Measuring {
  facts: Facts;
  /** Features that must stay, by key. */
  keep: ReadonlySet<string>;
  /** What each is worth to its user; the kit's own worth where nothing is said. */
  worth: ReadonlyMap<string, number>;
}

/** So often the sum of single costs is put right by what was really built. */
const MOST_ROUNDS = 6;

/**
 * Finds what to leave out so that the image fits with room to spare: measures every feature by building without it,
 * lets the compiler try harder first, chooses by worth, and builds what was chosen. Where features share code their costs
 * do not add up; then the sum is corrected by what was really built, until it fits.
 */
export async function fitImage(work: FitWork): Promise<FitOutcome> {
  const { facts, catalogue } = work;
  let builds = 0;
  const build: Measuring['build'] = (given) => {
    builds += 1;
    return work.build(given);
  };
  const costs = await measureCosts(facts, { ...work, build });
  if ('failed' in costs) return { cannot: `it does not build as it is: ${costs.failed}`, builds };
  const room = roomOf(facts.chip);
  const fits = ({ flash, ram }: Cost) => flash <= room.flash && ram <= room.ram;
  const harder = !fits(costs.whole) && costs.effort !== undefined;
  const stands = harder ? withHarder(facts, catalogue) : facts;
  const wish: FitWish = { worth: Object.fromEntries(work.worth), locked: [...work.keep], harder };
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    const chosen = chooseFit(costs, room, wish);
    if ('short' in chosen) return { cannot: shortInWords(chosen.short), builds };
    work.progress?.('what was chosen', costs.features.length + 1, costs.features.length + 2);
    const made = await build(factsTurned(stands, catalogue, chosen.dropped));
    if ('failed' in made) return { cannot: `what was chosen does not build: ${made.failed}`, builds };
    const after = costOf(made.sizes);
    if (fits(after))
      return { before: costs.whole, dropped: chosen.dropped, kept: chosen.kept, bound: costs.bound, harder, after, builds }; // prettier-ignore
    wish.correction = corrected(wish.correction, chosen.predicted, after);
  }
  return { cannot: `after ${MOST_ROUNDS} corrections what was chosen is still too large`, builds };
}

export function shortInWords({ flash, ram }: Cost): string {
  const short = [flash > 0 && `${flash} bytes of flash`, ram > 0 && `${ram} bytes of RAM`].filter(Boolean);
  return `${short.join(' and ')} are missing even without everything that can be left out`;
}
