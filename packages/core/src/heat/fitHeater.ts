import Joi from 'joi';
import { calculation, CalcError, finite } from '../calculation/calculation';

interface Input {
  trace: { t: number; c: number }[];
  duty: number;
  ambientC: number;
}
interface Output {
  gainC: number;
  tauS: number;
  deadS: number;
  rmsC: number;
}
interface Shape {
  tau: number;
  dead: number;
}

const LEAST_POINTS = 5;
/** Starting points tried along each of the two directions. */
const GRID = 16;
const MOST_ROUNDS = 200;
/** Points that the search begins with, and rounds on all of them: 20 000 points take no longer than a moment. */
const COARSE_POINTS = 500;
const LAST_ROUNDS = 6;

/**
 * Gain, time constant and dead time of a heater from a step of its output at t = 0: first order plus dead time,
 * least squares. The gain follows linearly from the other two, which are searched: a grid of starts, then
 * Levenberg and Marquardt from the best. `trace` has 5 to 20 000 points, t ≥ 0 and rising; `duty` above 0 to 1; the
 * gain is scaled to full duty.
 * @throws {CalcError} when times do not rise or nothing warms
 */
export const fitHeater = calculation<Input, Output>(
  'fitHeater',
  () =>
    Joi.object({
      trace: Joi.array()
        .items(Joi.object({ t: Joi.number().unsafe().min(0).max(1e6), c: finite() }))
        .min(LEAST_POINTS)
        .max(20_000),
      duty: Joi.number().greater(0).max(1),
      ambientC: finite(),
    }),
  ({ trace, duty, ambientC }) => {
    const falls = trace.findIndex(
      (point, index) => index > 0 && point.t <= (trace[index - 1]?.t ?? -Infinity),
    );
    if (falls > 0)
      throw new CalcError(`trace.${falls}.t`, `"trace.${falls}.t" must be above the time before it`);
    const rise = trace.map(({ c }) => c - ambientC);
    if (rise.reduce((sum, value) => sum + value, 0) <= 0)
      throw new CalcError('trace', '"trace" must rise above "ambientC"; nothing warms in it');
    const residualsOf = (points: Input['trace'], rises: number[]) => (shape: Shape) =>
      misfit(points, rises, shape);
    // Found on a thinned trace, then brought to the least squares of all points in few rounds.
    const every = Math.ceil(trace.length / COARSE_POINTS);
    const thin = <T>(list: T[]) => list.filter((_, index) => index % every === 0);
    const residuals = residualsOf(trace, rise);
    const coarsely = residualsOf(thin(trace), thin(rise));
    const near = refine(coarsely, coarse(coarsely, trace.at(-1)?.t ?? 0), MOST_ROUNDS);
    const best = every === 1 ? near : refine(residuals, near, LAST_ROUNDS);
    const { gain, squares } = residuals(best);
    if (gain <= 0) throw new CalcError('trace', '"trace" must rise above "ambientC"; nothing warms in it');
    return {
      gainC: gain / duty,
      tauS: best.tau,
      deadS: best.dead,
      rmsC: Math.sqrt(squares / trace.length),
    };
  },
);

interface Misfit {
  gain: number;
  squares: number;
  errors: number[];
}

/** The best gain for a shape, and what it leaves unexplained. */
function misfit(trace: Input['trace'], rise: number[], { tau, dead }: Shape): Misfit {
  const curve = trace.map(({ t }) => (t <= dead ? 0 : 1 - Math.exp(-(t - dead) / tau)));
  let [cross, own] = [0, 0];
  curve.forEach((value, index) => {
    cross += value * (rise[index] ?? 0);
    own += value * value;
  });
  const gain = own > 0 ? cross / own : 0;
  const errors = curve.map((value, index) => gain * value - (rise[index] ?? 0));
  return { gain, errors, squares: errors.reduce((sum, error) => sum + error * error, 0) };
}

function coarse(residuals: (shape: Shape) => Misfit, length: number): Shape {
  let best: { shape: Shape; squares: number } = { shape: { tau: length, dead: 0 }, squares: Infinity };
  for (let i = 0; i < GRID; i += 1)
    for (let j = 0; j < GRID; j += 1) {
      // Time constants from a hundredth of the trace to twenty times it; dead times up to nine tenths of it.
      const shape = {
        tau: (length / 100) * 2000 ** (i / (GRID - 1)),
        dead: 0.9 * length * (j / (GRID - 1)) ** 2,
      };
      const { squares } = residuals(shape);
      if (squares < best.squares) best = { shape, squares };
    }
  return best.shape;
}

/** Levenberg and Marquardt over the logarithm of tau and the dead time. */
function refine(residuals: (shape: Shape) => Misfit, start: Shape, rounds: number): Shape {
  let at = start;
  let now = residuals(at);
  let damping = 1e-2;
  for (let round = 0; round < rounds && damping < 1e12; round += 1) {
    const slopes = slopesAt(residuals, at, now);
    const step = solve(slopes, now.errors, damping);
    const next = { tau: at.tau * Math.exp(step[0]), dead: Math.max(0, at.dead + step[1]) };
    const then = residuals(next);
    if (then.squares < now.squares) {
      const small = now.squares - then.squares <= 1e-14 * now.squares;
      [at, now, damping] = [next, then, damping / 5];
      if (small) break;
    } else damping *= 4;
  }
  return at;
}

function slopesAt(residuals: (shape: Shape) => Misfit, at: Shape, now: Misfit): [number[], number[]] {
  const h = 1e-5;
  const dh = h * Math.max(at.tau, at.dead);
  const byTau = residuals({ ...at, tau: at.tau * Math.exp(h) }).errors;
  const byDead = residuals({ ...at, dead: at.dead + dh }).errors;
  return [
    byTau.map((error, index) => (error - (now.errors[index] ?? 0)) / h),
    byDead.map((error, index) => (error - (now.errors[index] ?? 0)) / dh),
  ];
}

function solve([a, b]: [number[], number[]], errors: number[], damping: number): [number, number] {
  let [aa, ab, bb, ae, be] = [0, 0, 0, 0, 0];
  errors.forEach((error, index) => {
    const [byA, byB] = [a[index] ?? 0, b[index] ?? 0];
    aa += byA ** 2;
    ab += byA * byB;
    bb += byB ** 2;
    ae += byA * error;
    be += byB * error;
  });
  aa *= 1 + damping;
  bb *= 1 + damping;
  const det = aa * bb - ab * ab;
  if (det <= 0) return [aa > 0 ? -ae / aa : 0, 0];
  const limit = (value: number) => Math.max(-1, Math.min(1, value));
  return [limit((ab * be - bb * ae) / det), (ab * ae - aa * be) / det];
}
