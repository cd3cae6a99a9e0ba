/** The harness search against a general solver, on the same models in the same run. */
import highsLoader from 'highs';
import { findHarness } from '@jolly/core/harness/findHarness';
import { harnessModel, unitsOf } from '@jolly/core/harness/harnessModel';
import { searchPlacement } from '@jolly/core/solver/search';
import { violations } from '@jolly/core/solver/placement';
import { seededRandom } from '../packages/bench/src/plant/random';
import { randomWiring } from '../packages/core/test/fixtures/wiringCases';
import { spread } from './figures';
import { asLp } from './generalSolver';

const CASES = 500;
/** Headers for each part; what is scarce differs from case to case. */
const HEADERS = [0.95, 1, 1.1];
const caseOf = (seed: number) =>
  randomWiring(seed, { parts: 40, headers: HEADERS[Math.floor(seededRandom(seed)() * HEADERS.length)]! });

/** 40 parts on a board of 120 pins, 500 cases; both solvers warm, loading and writing down excluded. */
export async function harnessBench(say: (what: string, figure: string) => void): Promise<void> {
  const highs = await highsLoader();
  const whole: number[] = [];
  const ours: number[] = [];
  const theirs: number[] = [];
  let cannot = 0;
  let differ = 0;
  const timed = <T>(into: number[], act: () => T): T => {
    const from = performance.now();
    const result = act();
    into.push(performance.now() - from);
    return result;
  };
  for (let seed = 1; seed <= 40; seed += 1) searchPlacement(modelOf(seed));
  for (let seed = 1; seed <= CASES; seed += 1) {
    const wiring = caseOf(seed);
    timed(whole, () => searchPlacement(harnessModel(wiring, unitsOf(wiring)).placement));
    const model = modelOf(seed);
    const found = timed(ours, () => searchPlacement(model));
    const solution = model.items.some(({ choices }) => choices.length === 0)
      ? { Status: 'Infeasible', ObjectiveValue: 0 }
      : timed(theirs, () => highs.solve(asLp(model)));
    const same = found
      ? violations(model, found.picks).length === 0 &&
        solution.Status === 'Optimal' &&
        Math.abs(solution.ObjectiveValue - found.price) < 1e-3
      : solution.Status === 'Infeasible';
    if (!found) cannot += 1;
    if (!same) differ += 1;
  }
  const sum = (list: number[]) => list.reduce((total, each) => total + each, 0);
  const ratio = sum(theirs) / sum(ours);
  const middle = spread(theirs).median / spread(ours).median;
  say(`harness, 40 parts, 120 pins: ${CASES} random cases, unmeetable`, `${cannot} (${Math.round((cannot / CASES) * 100)} %)`); // prettier-ignore
  say('harness: another optimum than highs', `${differ} cases`);
  say('harness, from board to proof: median, p95', spread(whole).words);
  say('harness search alone: median, p95', spread(ours).words);
  say('highs on the same models: median, p95', spread(theirs).words);
  say('harness search over highs: of medians, of totals', `${middle.toFixed(1)} ×, ${ratio.toFixed(1)} ×`);
  const why: number[] = [];
  // As many parts as a machine has; of 40 contested ones the smallest set can take seconds, and longer.
  for (let seed = 1; seed <= 40; seed += 1) {
    const wiring = randomWiring(seed, { parts: 20, headers: 1 });
    timed(why, () => findHarness(wiring));
  }
  say('harness of 20 parts with what cannot be met: median, p95', spread(why).words);
  say('  the worst of 40 cases', `${spread(why).worst.toFixed(0)} ms (budget 150 ms)`);
}

function modelOf(seed: number) {
  const wiring = caseOf(seed);
  return harnessModel(wiring, unitsOf(wiring)).placement;
}
