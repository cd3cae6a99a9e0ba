import Joi from 'joi';
import { atLeastZero, calculation, finite, positive } from '../calculation/calculation';
import type { Point } from './mapGrid';

interface Input {
  points: Point[];
  travelMmS: number;
  clearMm: number;
  plungeMmS: number;
  deployS: number;
  touches?: number;
}

/**
 * Seconds that probing takes: straight travel between successive points, and at each point deploying and `touches`
 * (1–10, default 1) times down and up by the clearance. The way to the first point is left out. 1 to 10 000 points;
 * speeds above 0, `clearMm` and `deployS` 0 or above.
 */
export const mapTime = calculation<Input, { seconds: number }>(
  'mapTime',
  () =>
    Joi.object({
      points: Joi.array()
        .items(Joi.object({ x: finite(), y: finite() }).unknown())
        .min(1)
        .max(10_000),
      travelMmS: positive(),
      clearMm: atLeastZero(),
      plungeMmS: positive(),
      deployS: atLeastZero(),
      touches: Joi.number().integer().min(1).max(10).optional(),
    }),
  ({ points, travelMmS, clearMm, plungeMmS, deployS, touches = 1 }) => {
    const wayMm = points.reduce((sum, { x, y }, index) => {
      const from = points[index - 1];
      return from ? sum + Math.hypot(x - from.x, y - from.y) : sum;
    }, 0);
    const atEach = deployS + (touches * 2 * clearMm) / plungeMmS;
    return { seconds: wayMm / travelMmS + points.length * atEach };
  },
);
