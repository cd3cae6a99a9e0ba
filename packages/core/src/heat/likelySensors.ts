import Joi from 'joi';
import { line } from '../text/plainText';
import { calculation, finite, positive, TOLERANCE } from '../calculation/calculation';
import { adcToC } from './thermistor';

interface Candidate {
  id: string;
  r25: number;
  beta: number;
}
interface Input {
  readings: { raw: number; knownC: number }[];
  bits: number;
  pullupOhms: number;
  candidates: Candidate[];
}
interface Ranked {
  id: string;
  /** What this sensor would mean, by reading; null at a rail. */
  readsC: (number | null)[];
  /** Root mean square of reading less truth; null when a reading sits at a rail. */
  errorC: number | null;
}
interface Output {
  ranked: Ranked[];
  /** Ids whose readings all lie within 2 °C of the best one's, the best included; empty when it stands alone. */
  tied: string[];
}

const SAME_C = 2;
/** A sensor that is off by more than this from what thermometers said, in °C, is another one: nothing known explains it. */
export const EXPLAINS_C = 5;

/**
 * Which thermistors explain what a chip reads at known temperatures, best first. 1 to 100 readings, each a count of
 * `bits` bits (6–24) with the true temperature in °C; the thermistor is to ground under `pullupOhms`.
 */
export const likelySensors = calculation<Input, Output>(
  'likelySensors',
  () =>
    Joi.object({
      readings: Joi.array()
        .items(
          Joi.object({
            raw: Joi.number()
              .min(0)
              .max(Joi.ref('/bits', { adjust: (bits: number) => 2 ** bits - 1 })),
            knownC: finite().min(-273.15),
          }),
        )
        .min(1)
        .max(100),
      bits: Joi.number().integer().min(6).max(24),
      pullupOhms: positive(),
      candidates: Joi.array()
        .items(Joi.object({ id: line(80), r25: positive(), beta: positive() }).unknown())
        .min(1)
        .max(500),
    }),
  ({ readings, bits, pullupOhms, candidates }) => {
    const ranked = candidates
      .map(({ id, r25, beta }): Ranked => {
        const readsC = readings.map(({ raw }) => adcToC.ofChecked({ raw, bits, pullupOhms, r25, beta }).c);
        return {
          id,
          readsC,
          errorC: rms(readings.map(({ knownC }, index) => off(readsC[index], knownC))),
        };
      })
      .sort((a, b) => (a.errorC ?? Infinity) - (b.errorC ?? Infinity) || (a.id < b.id ? -1 : 1));
    const [best] = ranked;
    const alike = ranked.filter(({ readsC }) =>
      readsC.every((c, index) => within(c, best?.readsC[index] ?? null)),
    );
    return { ranked, tied: alike.length > 1 ? alike.map(({ id }) => id) : [] };
  },
);

function rms(errors: (number | null)[]): number | null {
  const told = errors.filter((error) => error !== null);
  if (told.length < errors.length) return null;
  return Math.sqrt(told.reduce((sum, error) => sum + error ** 2, 0) / told.length);
}

const off = (c: number | null | undefined, knownC: number) => (c == null ? null : c - knownC);

const within = (a: number | null, b: number | null) =>
  a === null || b === null ? a === b : Math.abs(a - b) <= SAME_C + TOLERANCE;
