import Joi from 'joi';
import { atLeastZero, calculation, positive } from '../calculation/calculation';

/** Converts a jolt limit (mm/s) to the deviation (mm) that corners alike: 0.4 · jolt² / acceleration. */
export const deviationFromJolt = calculation<{ joltMmS: number; accelMmS2: number }, number>(
  'deviationFromJolt',
  () => Joi.object({ joltMmS: atLeastZero(), accelMmS2: positive() }),
  ({ joltMmS, accelMmS2 }) => (0.4 * joltMmS ** 2) / accelMmS2,
);

/** Inverse of `deviationFromJolt`: jolt limit in mm/s from a deviation in mm and an acceleration in mm/s². */
export const joltFromDeviation = calculation<{ deviationMm: number; accelMmS2: number }, number>(
  'joltFromDeviation',
  () => Joi.object({ deviationMm: atLeastZero(), accelMmS2: positive() }),
  ({ deviationMm, accelMmS2 }) => Math.sqrt((deviationMm * accelMmS2) / 0.4),
);
