import Joi from 'joi';
import { calculation, CalcError, finite, positive, TOLERANCE } from '../calculation/calculation';
import { type Heights, heightsKeys } from './heights';
import { planeAt, planeFit } from './planeFit';

export type Rotation = 'clockwise' | 'anticlockwise';
/** A screw below the plate and where it stands, mm. */
export interface Screw {
  id: string;
  x: number;
  y: number;
}
interface Input extends Heights {
  screws: Screw[];
  /** mm that a full turn raises. */
  pitchMm: number;
  /** The screw that stays as it is. */
  reference: string;
  /** The way, seen from above, that raises the plate. */
  raises?: Rotation;
}
export interface ScrewTurn {
  id: string;
  /** How far, and by how much of a turn; never negative. */
  mm: number;
  turns: number;
  move: 'raise' | 'lower' | 'leave';
  rotate?: Rotation;
}

/** Less than this is left, in mm. */
export const LEAVE_BELOW_MM = 0.02;
const OTHER: Record<Rotation, Rotation> = { clockwise: 'anticlockwise', anticlockwise: 'clockwise' };

/**
 * How far to turn each screw so that the plate's plane (see `planeFit`) comes level with the reference screw; in the order
 * of `screws`. 2 to 8 screws of different names; `pitchMm` above 0.
 * @throws {CalcError} when the reference is none of the screws
 */
export const screwTurns = calculation<Input, ScrewTurn[]>(
  'screwTurns',
  () =>
    Joi.object({
      ...heightsKeys(2),
      screws: Joi.array()
        .items(Joi.object({ id: Joi.string().max(40), x: finite(), y: finite() }))
        .unique('id')
        .min(2)
        .max(8),
      pitchMm: positive(),
      reference: Joi.string().max(40),
      raises: Joi.valid('clockwise', 'anticlockwise').optional(),
    }),
  ({ xs, ys, z, screws, pitchMm, reference, raises }) => {
    const fixed = screws.find(({ id }) => id === reference);
    if (!fixed)
      throw new CalcError(
        'reference',
        `"reference" must be one of the screws: ${screws.map(({ id }) => id).join(', ')}`,
      );
    const plane = planeFit.ofChecked({ xs, ys, z });
    const level = planeAt(plane, fixed.x, fixed.y);
    return screws.map(({ id, x, y }): ScrewTurn => {
      const above = planeAt(plane, x, y) - level;
      const mm = Math.abs(above);
      const move = mm < LEAVE_BELOW_MM - TOLERANCE ? 'leave' : above > 0 ? 'lower' : 'raise';
      const rotate = raises && move !== 'leave' && (move === 'raise' ? raises : OTHER[raises]);
      return { id, mm, turns: mm / pitchMm, move, ...(rotate && { rotate }) };
    });
  },
);
