import Joi from 'joi';
import { calculation, CalcError, positive } from '../calculation/calculation';

interface Input {
  points: { ohms: number; c: number }[];
}
interface Output {
  r25: number;
  beta: number;
  /** The farthest a point lies from the curve, in °C; 0 for two points. */
  errorC: number;
}
const KELVIN = 273.15;
const AT_25 = 1 / (25 + KELVIN);

/**
 * R25 and β of a thermistor out of 2 to 20 measured points (Ω above 0, −50 to 400 °C), by least squares of
 * ln R = ln R25 + β (1/T − 1/298.15 K). Points at one temperature, or a resistance that does not fall as it warms, are
 * refused.
 */
export const betaFrom = calculation<Input, Output>(
  'betaFrom',
  () =>
    Joi.object({
      points: Joi.array()
        .items(Joi.object({ ohms: positive(), c: Joi.number().min(-50).max(400) }))
        .min(2)
        .max(20),
    }),
  ({ points }) => {
    const at = points.map(({ ohms, c }) => ({ x: 1 / (c + KELVIN) - AT_25, y: Math.log(ohms) }));
    const mean = (of: (point: { x: number; y: number }) => number) =>
      at.reduce((sum, point) => sum + of(point), 0) / at.length;
    const [x, y] = [mean((point) => point.x), mean((point) => point.y)];
    const spread = mean((point) => (point.x - x) ** 2);
    if (spread < 1e-14) throw new CalcError('points', '"points" must be taken at two temperatures at least');
    const beta = mean((point) => (point.x - x) * (point.y - y)) / spread;
    if (beta <= 0)
      throw new CalcError(
        'points',
        '"points": the resistance must fall as it warms; are two readings exchanged?',
      );
    const r25 = Math.exp(y - beta * x);
    const cOf = (ohms: number) => 1 / (Math.log(ohms / r25) / beta + AT_25) - KELVIN;
    return { r25, beta, errorC: Math.max(...points.map(({ ohms, c }) => Math.abs(cOf(ohms) - c))) };
  },
);
