import Joi from 'joi';
import { atLeastZero, calculation, CalcError, positive, TOLERANCE } from '../calculation/calculation';
import { once } from '../tree/once';

interface Input {
  currentStepsPerMm: number;
  askedMm: number;
  markMm: number;
  leftMm: number;
}
interface Output {
  movedMm: number;
  stepsPerMm: number;
  changePct: number;
  verdict: 'keep' | 'apply' | 'measure again';
}

const schema = once(() =>
  Joi.object({
    currentStepsPerMm: positive(),
    askedMm: positive(),
    markMm: positive(),
    leftMm: atLeastZero(),
  }),
);

/**
 * Extruder steps/mm from a measured feed: filament is marked `markMm` above the entry, `askedMm` is fed and
 * `leftMm` remains (0 or more, below `markMm`). Verdict: keep below 1 % change, measure again above 25 %.
 * @throws {CalcError} when nothing was fed
 */
export const extruderSteps = calculation<Input, Output>(
  'extruderSteps',
  schema,
  ({ currentStepsPerMm, askedMm, markMm, leftMm }) => {
    if (leftMm >= markMm)
      throw new CalcError('leftMm', `"leftMm" must be from 0 to below markMm (${markMm}): nothing was fed`);
    const movedMm = markMm - leftMm;
    const stepsPerMm = (currentStepsPerMm * askedMm) / movedMm;
    const changePct = (stepsPerMm / currentStepsPerMm - 1) * 100;
    const size = Math.abs(changePct);
    const verdict = size < 1 - TOLERANCE ? 'keep' : size > 25 + TOLERANCE ? 'measure again' : 'apply';
    return { movedMm, stepsPerMm, changePct, verdict };
  },
);
