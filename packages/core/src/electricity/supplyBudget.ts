import Joi from 'joi';
import { line } from '../text/plainText';
import { calculation, positive, TOLERANCE } from '../calculation/calculation';

export interface Load {
  name: string;
  kind: 'resistive' | 'electronic' | 'chopper' | 'mains';
  watts?: number;
  amps?: number;
  /** What it is rated for; for a chopper driver, the volts its winding needs. */
  volts: number;
  /** Share of the time it is on, 0 to 1; 1 where nothing is said. */
  duty?: number;
}
interface Input {
  supplyV: number;
  supplyA: number;
  loads: Load[];
}
interface Output {
  peakA: number;
  meanA: number;
  share: number;
  verdict: 'fine' | 'tight' | 'no';
  /** Name of the load that draws most; empty without loads. */
  largest: string;
  /** Watts each load takes from the supply while it is on. */
  each: { name: string; watts: number; amps: number }[];
  /** Resistive loads rated for another voltage than the supply's. */
  otherVoltage: string[];
}

/**
 * What all loads together draw from a supply. A resistive load at another voltage takes (supply/rated)² of its
 * power. Electronic loads and chopper drivers take their power whatever the supply's voltage: a chopper driver
 * turns the supply's voltage down to what the winding needs (amps · volts of the winding, or its watts), so that the
 * supply gives far less current than the motor gets. Mains loads are left out. The verdict is on the peak, all on at
 * once: fine to 80 % of the supply, tight to 100 %, no above. Volts and amperes above 0, duty 0 to 1.
 */
export const supplyBudget = calculation<Input, Output>(
  'supplyBudget',
  () =>
    Joi.object({
      supplyV: positive(),
      supplyA: positive(),
      loads: Joi.array()
        .items(
          Joi.object({
            name: line(80),
            kind: Joi.valid('resistive', 'electronic', 'chopper', 'mains'),
            watts: positive().optional(),
            amps: positive().optional(),
            volts: positive(),
            duty: Joi.number().min(0).max(1).optional(),
          })
            .xor('watts', 'amps')
            .optional(),
        )
        .max(200),
    }),
  ({ supplyV, supplyA, loads }) => {
    const drawn = loads
      .filter((load) => load.kind !== 'mains')
      .map((load) => ({ load, watts: wattsFrom(load, supplyV) }));
    const peakA = drawn.reduce((sum, { watts }) => sum + watts / supplyV, 0);
    const meanA = drawn.reduce((sum, { load, watts }) => sum + (watts / supplyV) * (load.duty ?? 1), 0);
    const share = peakA / supplyA;
    const most = drawn.reduce<(typeof drawn)[number] | undefined>(
      (largest, entry) => (largest && largest.watts >= entry.watts ? largest : entry),
      undefined,
    );
    return {
      peakA,
      meanA,
      share,
      verdict: share <= 0.8 + TOLERANCE ? 'fine' : share <= 1 + TOLERANCE ? 'tight' : 'no',
      largest: most?.load.name ?? '',
      each: drawn.map(({ load, watts }) => ({ name: load.name, watts, amps: watts / supplyV })),
      otherVoltage: loads
        .filter((load) => load.kind === 'resistive' && Math.abs(load.volts - supplyV) > TOLERANCE)
        .map(({ name }) => name),
    };
  },
);

function wattsFrom({ kind, watts, amps, volts }: Load, supplyV: number): number {
  const rated = watts ?? (amps ?? 0) * volts;
  return kind === 'resistive' ? rated * (supplyV / volts) ** 2 : rated;
}
