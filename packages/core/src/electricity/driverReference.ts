import Joi from 'joi';
import { calculation, positive } from '../calculation/calculation';

/** Volts to set at the pot of a driver module for a motor current. Both above 0; amperes are rms. */
export const driverReference = calculation<{ currentRms: number; voltsPerAmpRms: number }, { volts: number }>(
  'driverReference',
  () => Joi.object({ currentRms: positive().max(100), voltsPerAmpRms: positive().max(100) }),
  ({ currentRms, voltsPerAmpRms }) => ({ volts: currentRms * voltsPerAmpRms }),
);

/** Share of a motor's rating it is run with where nothing else is said. */
export const USUAL_SHARE = 0.7;
/** Above this share a motor gets hot. */
export const LARGEST_SHARE = 0.9;

/** Current to run a motor with, A rms: a share of its rating, above 0 to 0.9, 0.7 where none is said. */
export const motorCurrent = calculation<{ ratedRms: number; share?: number }, { amps: number }>(
  'motorCurrent',
  () =>
    Joi.object({
      ratedRms: positive().max(100),
      share: Joi.number()
        .greater(0)
        .max(LARGEST_SHARE + 1e-9)
        .optional(),
    }),
  ({ ratedRms, share = USUAL_SHARE }) => ({ amps: ratedRms * share }),
);
