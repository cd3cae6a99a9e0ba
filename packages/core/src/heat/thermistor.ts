import Joi from 'joi';
import { calculation, CalcError, positive } from '../calculation/calculation';

const KELVIN = 273.15;
const RAIL_SHARE = 0.002;

interface Beta {
  r25: number;
  beta: number;
}

/** Temperature in °C of a thermistor by the beta formula: 1/T = 1/298.15 + ln(R/R25)/β. Inputs above 0. */
export const thermistorC = calculation<Beta & { ohms: number }, number>(
  'thermistorC',
  () => Joi.object({ ohms: positive(), r25: positive(), beta: positive() }),
  ({ ohms, r25, beta }) => 1 / (1 / (25 + KELVIN) + Math.log(ohms / r25) / beta) - KELVIN,
);

/** Resistance in Ω of a thermistor at `c` °C; the inverse of `thermistorC`. */
export function thermistorOhms({ r25, beta }: Beta, c: number): number {
  return r25 * Math.exp(beta * (1 / (c + KELVIN) - 1 / (25 + KELVIN)));
}

interface AdcInput extends Beta {
  raw: number;
  bits: number;
  pullupOhms: number;
}
interface AdcOutput {
  ohms: number | null;
  c: number | null;
  degreesPerCount: number | null;
  verdict: 'fine' | 'open' | 'short';
}

/**
 * What an ADC count means for a thermistor to ground under a pull-up; full scale is 2^bits − 1 (bits 6–24,
 * raw 0…full scale). `degreesPerCount` is |dT/draw|. Open within 0.2 % of full scale, short within 0.2 % of zero;
 * at the exact rail resistance and temperature are null.
 * @throws {CalcError} when `raw` is above full scale
 */
export const adcToC = calculation<AdcInput, AdcOutput>(
  'adcToC',
  () =>
    Joi.object({
      raw: Joi.number()
        .min(0)
        .max(2 ** 24),
      bits: Joi.number().integer().min(6).max(24),
      pullupOhms: positive(),
      r25: positive(),
      beta: positive(),
    }),
  ({ raw, bits, pullupOhms, r25, beta }) => {
    const full = 2 ** bits - 1;
    if (raw > full) throw new CalcError('raw', `"raw" must be between 0 and ${full} for ${bits} bits`);
    const share = raw / full;
    const verdict = share >= 1 - RAIL_SHARE ? 'open' : share <= RAIL_SHARE ? 'short' : 'fine';
    if (raw === 0 || raw === full) return { ohms: null, c: null, degreesPerCount: null, verdict };
    const ohms = (pullupOhms * raw) / (full - raw);
    const c = thermistorC({ ohms, r25, beta });
    // d(ln R)/d(raw) = full / (raw · (full − raw)); dT = T² / β · d(ln R)
    const degreesPerCount = (((c + KELVIN) ** 2 / beta) * full) / (raw * (full - raw));
    return { ohms, c, degreesPerCount, verdict };
  },
);
