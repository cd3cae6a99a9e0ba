import Joi from 'joi';
import { calculation, positive, TOLERANCE } from '../calculation/calculation';

interface Input {
  clockHz: number;
  baud: number;
  divider: 16 | 8;
}
interface Output {
  register: number;
  actual: number;
  errorPct: number;
  verdict: 'fine' | 'marginal' | 'no';
}

/**
 * The rate a serial port really runs at: register = max(0, round(clock / (divider · baud)) − 1).
 * Fine to 2 % off, marginal to 2.5 %, no above. Clock and baud above 0, divider 16 or 8.
 */
export const baudError = calculation<Input, Output>(
  'baudError',
  () => Joi.object({ clockHz: positive(), baud: positive(), divider: Joi.valid(16, 8) }),
  ({ clockHz, baud, divider }) => {
    const register = Math.max(0, Math.round(clockHz / (divider * baud)) - 1);
    const actual = clockHz / (divider * (register + 1));
    const errorPct = (actual / baud - 1) * 100;
    const size = Math.abs(errorPct);
    return {
      register,
      actual,
      errorPct,
      verdict: size <= 2 + TOLERANCE ? 'fine' : size <= 2.5 + TOLERANCE ? 'marginal' : 'no',
    };
  },
);
