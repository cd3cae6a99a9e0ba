import Joi from 'joi';
import { calculation, positive } from '../calculation/calculation';

interface Input {
  stepsPerMm: number;
  stepRateHz: number;
  kinematics?: 'plain' | 'cross-belt';
}

/**
 * Fastest speed in mm/s, in the worst direction, that a step rate allows. On a cross-belt frame one motor
 * carries a diagonal move alone and turns √2 faster than the head moves. All inputs above 0.
 */
export const topSpeed = calculation<Input, number>(
  'topSpeed',
  () =>
    Joi.object({
      stepsPerMm: positive(),
      stepRateHz: positive(),
      kinematics: Joi.valid('plain', 'cross-belt').optional(),
    }),
  ({ stepsPerMm, stepRateHz, kinematics }) =>
    stepRateHz / stepsPerMm / (kinematics === 'cross-belt' ? Math.SQRT2 : 1),
);
