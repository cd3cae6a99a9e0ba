import Joi from 'joi';
import { calculation, positive } from '../calculation/calculation';

type Input = { watts: number; volts: number } | { ohms: number; volts: number };
type Output = { amps: number; ohms: number } | { amps: number; watts: number };

/** A heater's current and resistance from its rating, or its current and power from its resistance. All above 0. */
export const heaterLoad = calculation<Input, Output>(
  'heaterLoad',
  () =>
    Joi.object({ watts: positive().optional(), ohms: positive().optional(), volts: positive() }).xor(
      'watts',
      'ohms',
    ),
  (input) =>
    'watts' in input
      ? { amps: input.watts / input.volts, ohms: input.volts ** 2 / input.watts }
      : { amps: input.volts / input.ohms, watts: input.volts ** 2 / input.ohms },
);
