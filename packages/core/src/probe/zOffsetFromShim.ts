import Joi from 'joi';
import { atLeastZero, calculation, finite } from '../calculation/calculation';

interface Input {
  /** The offset that was in use, mm. */
  offset: number;
  /** The height that was shown when the shim dragged, mm. */
  shownZ: number;
  shimMm: number;
  /** The shim's own thickness is taken off; else the shim is called zero. */
  countShim: boolean;
}

/** The Z offset of a probe from where the nozzle held a shim: offset + shown height − (the shim, where it is counted); mm. */
export const zOffsetFromShim = calculation<Input, number>(
  'zOffsetFromShim',
  () =>
    Joi.object({
      offset: finite(),
      shownZ: finite(),
      shimMm: atLeastZero().max(10),
      countShim: Joi.boolean(),
    }),
  ({ offset, shownZ, shimMm, countShim }) => offset + shownZ - (countShim ? shimMm : 0),
);
