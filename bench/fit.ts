import highsLoader from 'highs';
import { type Feature, fitFeatures } from '@jolly/core/solver/fitFeatures';
import { seededRandom } from '../packages/bench/src/plant/random';
import { spread } from './figures';

const CASES = 300;
const FEATURES = 40;

/** Forty features of the sizes options have, some that need or exclude another, about half of them fitting. */
function randomCase(seed: number): { features: Feature[]; flashFree: number; ramFree: number } {
  const next = seededRandom(seed);
  const some = (least: number, most: number) => Math.floor(least + next() * (most - least));
  const features = Array.from({ length: FEATURES }, (_, index): Feature => {
    const flash = some(80, 6000);
    // Every third case is worth about what it takes: the hardest to part.
    const worth = seed % 3 === 0 ? Math.round(flash / 100) + some(0, 4) : some(1, 30);
    const other = `f${String(some(0, FEATURES)).padStart(2, '0')}`;
    const id = `f${String(index).padStart(2, '0')}`;
    return {
      id, flash, ram: some(0, 900), worth,
      ...(next() < 0.25 && other < id && { needs: [other] }),
      ...(next() < 0.1 && other > id && { excludes: [other] }),
      ...(index < 3 && { locked: true }),
    }; // prettier-ignore
  });
  const total = (key: 'flash' | 'ram') => features.reduce((sum, feature) => sum + feature[key], 0);
  return { features, flashFree: Math.round(total('flash') * 0.5), ramFree: Math.round(total('ram') * 0.55) };
}

function asLp({ features, flashFree, ramFree }: ReturnType<typeof randomCase>): string {
  const sum = (key: 'flash' | 'ram' | 'worth') => features.map((feature) => `${feature[key]} ${feature.id}`).join(' + '); // prettier-ignore
  const rules = features.flatMap(({ id, needs = [], excludes = [], locked }) => [
    ...needs.map((other) => `${id} - ${other} <= 0`),
    ...excludes.map((other) => `${id} + ${other} <= 1`),
    ...(locked ? [`${id} = 1`] : []),
  ]);
  const all = [`${sum('flash')} <= ${flashFree}`, `${sum('ram')} <= ${ramFree}`, ...rules];
  return ['Maximize', ` obj: ${sum('worth')}`, 'Subject To', ...all.map((rule, at) => ` r${at}: ${rule}`), 'Binaries', ` ${features.map(({ id }) => id).join(' ')}`, 'End'].join('\n'); // prettier-ignore
}

/** The fit search beside a general solver on the same cases: the same optimum, and in what time. */
export async function fitBench(say: (what: string, figure: string) => void): Promise<void> {
  const highs = await highsLoader();
  const [ours, theirs]: [number[], number[]] = [[], []];
  let differ = 0;
  const timed = <T>(into: number[], act: () => T): T => {
    const from = performance.now();
    const result = act();
    into.push(performance.now() - from);
    return result;
  };
  for (let seed = 1; seed <= CASES; seed += 1) {
    const given = randomCase(seed);
    const found = timed(ours, () => fitFeatures(given));
    const model = asLp(given);
    const solved = timed(theirs, () => highs.solve(model));
    const best = solved.Status === 'Optimal' ? Math.round(solved.ObjectiveValue) : undefined;
    if (('worth' in found ? found.worth : undefined) !== best) differ += 1;
  }
  const [mine, other] = [spread(ours), spread(theirs)];
  say(`fit of ${FEATURES} features: median, p95`, `${mine.words}; ${mine.worst.toFixed(1)} ms at most (budget 10 ms)`); // prettier-ignore
  say('highs on the same cases: median, p95', `${other.words}; ${(other.median / mine.median).toFixed(1)} × of medians`); // prettier-ignore
  say('fit: another optimum than highs', `${differ} of ${CASES} cases`);
}
