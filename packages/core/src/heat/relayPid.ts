import Joi from 'joi';
import { calculation, CalcError, finite, positive } from '../calculation/calculation';

interface Input {
  highC: number;
  lowC: number;
  periodS: number;
  swing: number;
  rule: 'classic' | 'some overshoot' | 'no overshoot';
}
interface Output {
  ku: number;
  tu: number;
  kp: number;
  ki: number;
  kd: number;
}

/** Share of the ultimate gain taken, and the part of the period that the derivative looks ahead, by rule. */
const RULES = {
  classic: { share: 0.6, ahead: 1 / 8 },
  'some overshoot': { share: 0.33, ahead: 1 / 3 },
  'no overshoot': { share: 0.2, ahead: 1 / 3 },
};

/**
 * PID from a heater that was switched on and off around its target (relay method of Åström and Hägglund, rules of
 * Ziegler and Nichols). `swing` is half the output's peak-to-peak; temperatures in °C, `periodS` in s above 0;
 * ku = 4·swing / (π·(high − low)/2).
 * @throws {CalcError} when `highC` is not above `lowC`
 */
export const relayPid = calculation<Input, Output>(
  'relayPid',
  () =>
    Joi.object({
      highC: finite(),
      lowC: finite(),
      periodS: positive(),
      swing: positive(),
      rule: Joi.valid('classic', 'some overshoot', 'no overshoot'),
    }),
  ({ highC, lowC, periodS: tu, swing, rule }) => {
    if (highC <= lowC) throw new CalcError('highC', `"highC" must be above "lowC", ${lowC}`);
    const ku = (4 * swing) / (Math.PI * ((highC - lowC) / 2));
    const { share, ahead } = RULES[rule];
    const kp = share * ku;
    return { ku, tu, kp, ki: (2 * kp) / tu, kd: kp * tu * ahead };
  },
);
