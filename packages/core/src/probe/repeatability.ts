import Joi from 'joi';
import { calculation, finite, positive, TOLERANCE } from '../calculation/calculation';

interface Input {
  readings: number[];
  limitMm?: number;
}
export interface Repeatability {
  n: number;
  min: number;
  max: number;
  range: number;
  mean: number;
  /** Of a sample, and of the readings as a whole. */
  sd: number;
  sdPopulation: number;
  /** Slope over the count of readings, by least squares. */
  driftPerReading: number;
  verdict: 'fine' | 'drifting' | 'poor';
}

/** Either way from the middle, in mm. */
export const USUAL_LIMIT_MM = 0.025;

/**
 * How far repeated readings of one height scatter, all in mm. `fine` when they lie within the limit either way of their
 * middle; `drifting` when what they drift from the first to the last is more than that half range; else `poor`. 3 to 1000
 * readings; `limitMm` above 0, default 0.025.
 */
export const repeatability = calculation<Input, Repeatability>(
  'repeatability',
  () =>
    Joi.object({ readings: Joi.array().items(finite()).min(3).max(1000), limitMm: positive().optional() }),
  ({ readings, limitMm = USUAL_LIMIT_MM }) => {
    const n = readings.length;
    const [min, max] = [Math.min(...readings), Math.max(...readings)];
    const mean = readings.reduce((sum, value) => sum + value, 0) / n;
    const squares = readings.reduce((sum, value) => sum + (value - mean) ** 2, 0);
    const middle = (n - 1) / 2;
    const steps = readings.reduce((sum, _, index) => sum + (index - middle) ** 2, 0);
    const driftPerReading =
      readings.reduce((sum, value, index) => sum + (index - middle) * (value - mean), 0) / steps;
    const half = (max - min) / 2;
    const drifts = Math.abs(driftPerReading) * (n - 1) > half;
    return {
      n,
      min,
      max,
      range: max - min,
      mean,
      sd: Math.sqrt(squares / (n - 1)),
      sdPopulation: Math.sqrt(squares / n),
      driftPerReading,
      verdict: half <= limitMm + TOLERANCE ? 'fine' : drifts ? 'drifting' : 'poor',
    };
  },
);
