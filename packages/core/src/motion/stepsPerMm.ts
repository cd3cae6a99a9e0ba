import Joi from 'joi';
import { calculation, positive } from '../calculation/calculation';
import { once } from '../tree/once';

interface Motor {
  fullSteps: number;
  microsteps: number;
  gearRatio?: number;
}
export type Drive =
  | (Motor & { kind: 'belt'; pitchMm: number; teeth: number })
  | (Motor & { kind: 'screw'; leadMm: number })
  | (Motor & { kind: 'roller'; diameterMm: number });

const motor = () => ({
  fullSteps: Joi.number().integer().min(1).max(10000),
  microsteps: Joi.number().integer().min(1).max(1024),
  gearRatio: positive().optional(),
});
const schema = once(() =>
  Joi.object({ kind: Joi.valid('belt', 'screw', 'roller') })
    .unknown()
    .when('.kind', {
      switch: [
        {
          is: 'belt',
          then: Joi.object({
            kind: Joi.any(),
            ...motor(),
            pitchMm: positive(),
            teeth: Joi.number().integer().min(1).max(1000),
          }).unknown(false),
        },
        { is: 'screw', then: Joi.object({ kind: Joi.any(), ...motor(), leadMm: positive() }).unknown(false) },
        {
          is: 'roller',
          then: Joi.object({ kind: Joi.any(), ...motor(), diameterMm: positive() }).unknown(false),
        },
      ],
    }),
);

/**
 * Microsteps per millimetre of travel: motor microsteps per turn, times motor turns per output turn, over the
 * travel of one output turn (belt: pitch × teeth; screw: lead; roller: π × diameter).
 * Ranges: full steps 1–10 000 a turn, microsteps 1–1024, teeth 1–1000, lengths and gear ratio above 0.
 */
export const stepsPerMm = calculation<Drive, number>('stepsPerMm', schema, (drive) => {
  const perOutputTurn = drive.fullSteps * drive.microsteps * (drive.gearRatio ?? 1);
  return perOutputTurn / travelPerTurn(drive);
});

function travelPerTurn(drive: Drive): number {
  if (drive.kind === 'belt') return drive.pitchMm * drive.teeth;
  return drive.kind === 'screw' ? drive.leadMm : Math.PI * drive.diameterMm;
}
