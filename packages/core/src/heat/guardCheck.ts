import Joi from 'joi';
import { atLeastZero, calculation, CalcError, finite, positive, TOLERANCE } from '../calculation/calculation';
import { afterFullOn } from './afterFullOn';

interface Input {
  gainC: number;
  tauS: number;
  deadS: number;
  ambientC: number;
  targetC: number;
  watchRiseC: number;
  watchPeriodS: number;
  holdDropC: number;
  holdPeriodS: number;
}
interface Output {
  /** How far the body rises in the watch period in the worst case, in °C. */
  warmRiseC: number;
  falseTripWarm: boolean;
  /** From the sensor falling off to heat off, in s; null when the reading never falls so far. */
  holdTripS: number | null;
  holdVerdict: 'fine' | 'late';
}

/** How far above its target a body may get before the guard must have acted, in °C. */
export const GUARD_OVERSHOOT_C = 60;

/**
 * Whether a thermal guard's windows suit a heater (first order, `gainC` at full power over ambient, `tauS`, `deadS`).
 * Warm-up: the worst case starts `watchRiseC` below the target; a rise below `watchRiseC` is a false trip. Hold: the
 * sensor falls off at the target and cools as the body would, τ·ln((target − ambient)/(target − ambient − drop)), and
 * the guard waits `holdPeriodS` more, with the heater full on; `late` if the body could get more than 60 °C above
 * its target in that time. Times and rises above 0, `deadS` 0 or above.
 * @throws {CalcError} when the target is not above ambient
 */
export const guardCheck = calculation<Input, Output>(
  'guardCheck',
  () =>
    Joi.object({
      gainC: positive(),
      tauS: positive(),
      deadS: atLeastZero(),
      ambientC: finite(),
      targetC: finite(),
      watchRiseC: positive(),
      watchPeriodS: positive(),
      holdDropC: positive(),
      holdPeriodS: positive(),
    }),
  (heater) => {
    const { gainC, tauS, deadS, ambientC, targetC, watchRiseC, watchPeriodS } = heater;
    if (targetC <= ambientC)
      throw new CalcError('targetC', `"targetC" must be above "ambientC", ${ambientC}`);
    const hottest = gainC + ambientC;
    const start = targetC - watchRiseC;
    const warmRiseC = (hottest - start) * (1 - Math.exp(-Math.max(0, watchPeriodS - deadS) / tauS));
    const holdTripS = timeToTrip(heater);
    const reached = holdTripS === null ? hottest : afterFullOn(heater, targetC, holdTripS);
    return {
      warmRiseC,
      falseTripWarm: warmRiseC < watchRiseC - TOLERANCE,
      holdTripS,
      holdVerdict: reached > targetC + GUARD_OVERSHOOT_C + TOLERANCE ? 'late' : 'fine',
    };
  },
);

function timeToTrip({ tauS, ambientC, targetC, holdDropC, holdPeriodS }: Input): number | null {
  const above = targetC - ambientC;
  return above > holdDropC ? tauS * Math.log(above / (above - holdDropC)) + holdPeriodS : null;
}
