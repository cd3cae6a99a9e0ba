import Joi from 'joi';
import { calculation, CalcError, positive, TOLERANCE } from '../calculation/calculation';

interface Input {
  fromV: number;
  toV: number;
  tolerantV: number;
  loadOhms?: number;
}
export interface Divider {
  /** From the sensor's output to the input. */
  topOhms: number;
  /** From the input to ground. */
  bottomOhms: number;
  levelV: number;
  currentA: number;
  edgeNote: string;
}

/** The E24 series of IEC 60063, one decade. */
const E24 = [10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91];
/** 1 kΩ to 91 kΩ: below, the output works hard; above, noise and slow edges. */
const VALUES = E24.flatMap((value) => [value * 100, value * 1000]);
/** What the two together should come to; among equal levels the pair nearest to it is taken. */
const USUAL_OHMS = 10_000;
/** Farads of an input pin and a metre of lead. */
const INPUT_CAPACITY = 150e-12;

/**
 * Two E24 resistors that bring `fromV` down to about `toV` and never above `tolerantV`. `loadOhms` is what the input
 * itself draws, in parallel to the lower one. All above 0; `fromV` above `toV`, `toV` at most `tolerantV`.
 */
export const dividerFor = calculation<Input, Divider>(
  'dividerFor',
  () =>
    Joi.object({
      fromV: positive().max(1000),
      toV: positive().max(1000),
      tolerantV: positive().max(1000),
      loadOhms: positive().optional(),
    }),
  ({ fromV, toV, tolerantV, loadOhms }) => {
    if (toV >= fromV)
      throw new CalcError(
        'toV',
        `"toV" must be below "fromV", which is ${fromV}: a divider only brings down`,
      );
    if (toV > tolerantV + TOLERANCE)
      throw new CalcError('toV', `"toV" must be at most "tolerantV", which is ${tolerantV}`);
    let best: { top: number; bottom: number; level: number; miss: number; far: number } | undefined;
    for (const top of VALUES)
      for (const bottom of VALUES) {
        const level = (fromV * loaded(bottom, loadOhms)) / (top + loaded(bottom, loadOhms));
        if (level > tolerantV + TOLERANCE) continue;
        const miss = Math.abs(level - toV);
        const far = Math.abs(Math.log((top + bottom) / USUAL_OHMS));
        if (best && (miss > best.miss + TOLERANCE || (miss > best.miss - TOLERANCE && far >= best.far)))
          continue;
        best = { top, bottom, level, miss, far };
      }
    if (!best)
      throw new CalcError('loadOhms', `no pair from 1 kΩ to 91 kΩ brings ${fromV} V down to ${tolerantV} V`);
    const { top, bottom, level } = best;
    const source = 1 / (1 / top + 1 / loaded(bottom, loadOhms));
    const riseUs = 2.2 * source * INPUT_CAPACITY * 1e6;
    return {
      topOhms: top,
      bottomOhms: bottom,
      levelV: level,
      currentA: fromV / (top + loaded(bottom, loadOhms)),
      edgeNote: `edges take about ${riseUs.toFixed(1)} µs: ${riseUs < 10 ? 'fine for a switch or probe' : 'too slow for fast signals'}`,
    };
  },
);

const loaded = (ohms: number, load: number | undefined) =>
  load === undefined ? ohms : (ohms * load) / (ohms + load);
