import Joi from 'joi';
import { once } from '../tree/once';

interface DriveFacts {
  gear_ratio?: number;
  /** The way the motor's shaft turns, seen from the shaft, while the axis goes towards plus. Missing until it was seen. */
  plus_is?: 'clockwise' | 'anticlockwise';
  /** The kit decides these two until somebody knows better. */
  max_speed_mm_s?: number;
  max_accel_mm_s2?: number;
}
export type AxisDrive = DriveFacts &
  (
    | { kind: 'belt'; pitch_mm: number; teeth: number }
    | { kind: 'screw'; lead_mm: number }
    | { kind: 'roller'; diameter_mm: number }
  );

const positive = () => Joi.number().min(1e-4).max(1e6);
/** Guards the drive of one axis. */
export const driveSchema = once(() =>
  Joi.object<AxisDrive>({
    gear_ratio: positive(),
    plus_is: Joi.valid('clockwise', 'anticlockwise'),
    max_speed_mm_s: positive(),
    max_accel_mm_s2: positive(),
    kind: Joi.valid('belt', 'screw', 'roller').required(),
    pitch_mm: Joi.when('kind', {
      is: 'belt',
      then: positive().max(20).required(),
      otherwise: Joi.forbidden(),
    }),
    teeth: Joi.when('kind', {
      is: 'belt',
      then: Joi.number().integer().min(5).max(200).required(),
      otherwise: Joi.forbidden(),
    }),
    lead_mm: Joi.when('kind', {
      is: 'screw',
      then: positive().max(100).required(),
      otherwise: Joi.forbidden(),
    }),
    diameter_mm: Joi.when('kind', {
      is: 'roller',
      then: positive().max(100).required(),
      otherwise: Joi.forbidden(),
    }),
  }),
);
