import Joi from 'joi';
import { atLeastZero, calculation } from '../calculation/calculation';

interface Input {
  side: 'left' | 'right';
  sideMm: number;
  face: 'front' | 'back';
  faceMm: number;
}

/** Probe offset from the nozzle (probe point = nozzle point + offset): left and front are negative. */
export const probeOffset = calculation<Input, { x: number; y: number }>(
  'probeOffset',
  () =>
    Joi.object({
      side: Joi.valid('left', 'right'),
      sideMm: atLeastZero(),
      face: Joi.valid('front', 'back'),
      faceMm: atLeastZero(),
    }),
  ({ side, sideMm, face, faceMm }) => ({
    x: side === 'left' ? -sideMm : sideMm,
    y: face === 'front' ? -faceMm : faceMm,
  }),
);
