import Joi from 'joi';
import { atLeastZero, calculation, positive, TOLERANCE } from '../calculation/calculation';

interface Input {
  awg: number;
  lengthM: number;
  amps: number;
  volts: number;
}
interface Output {
  areaMm2: number;
  ohmsPerM: number;
  dropV: number;
  dropPct: number;
  densityAPerMm2: number;
  verdict: 'fine' | 'warm' | 'no';
}
/** Ω·m of copper at room temperature. */
const COPPER = 1.724e-8;

/**
 * What a wire of an American gauge does under a load: the drop out and back over `lengthM` (one way), and the
 * current density. d = 0.127·92^((36−awg)/39) mm. Warm above 6 A/mm² or 3 % drop, no above 10 A/mm².
 * Gauge 0 to 40, length and volts above 0, amperes 0 or above.
 */
export const wireCheck = calculation<Input, Output>(
  'wireCheck',
  () =>
    Joi.object({
      awg: Joi.number().min(0).max(40),
      lengthM: positive().max(1000),
      amps: atLeastZero(),
      volts: positive(),
    }),
  ({ awg, lengthM, amps, volts }) => {
    const diameter = 0.127 * 92 ** ((36 - awg) / 39);
    const areaMm2 = (Math.PI / 4) * diameter ** 2;
    const ohmsPerM = COPPER / (areaMm2 * 1e-6);
    const dropV = 2 * lengthM * amps * ohmsPerM;
    const dropPct = (dropV / volts) * 100;
    const densityAPerMm2 = amps / areaMm2;
    const warm = densityAPerMm2 > 6 + TOLERANCE || dropPct > 3 + TOLERANCE;
    return {
      areaMm2,
      ohmsPerM,
      dropV,
      dropPct,
      densityAPerMm2,
      verdict: densityAPerMm2 > 10 + TOLERANCE ? 'no' : warm ? 'warm' : 'fine',
    };
  },
);
