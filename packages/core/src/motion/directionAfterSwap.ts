import Joi from 'joi';
import { calculation } from '../calculation/calculation';

interface Swap {
  wasInverted: boolean;
  oldDriverFlips: boolean;
  newDriverFlips: boolean;
  plugTurned: boolean;
}

/** Whether an axis must be inverted after a driver or plug change: the parity of the four facts. */
export const directionAfterSwap = calculation<Swap, boolean>(
  'directionAfterSwap',
  () =>
    Joi.object({
      wasInverted: Joi.boolean(),
      oldDriverFlips: Joi.boolean(),
      newDriverFlips: Joi.boolean(),
      plugTurned: Joi.boolean(),
    }),
  (swap) =>
    [swap.wasInverted, swap.oldDriverFlips, swap.newDriverFlips, swap.plugTurned].filter(Boolean).length %
      2 ===
    1,
);
