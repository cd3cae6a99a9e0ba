import { type Facts, partFor } from '../machine/facts';
import type { Heated } from '../machine/machine';
import { numberOf, type Settings } from './setting';

/** Room temperature that heat is reckoned from, in °C. */
export const AMBIENT_C = 21;
const LOW_VOLTAGE = 60;

/** How a heated body warms on this machine: its curve at the real supply, with the power cap as set. */
export function heaterCurve(
  facts: Facts,
  settings: Settings,
  body: Heated,
): { gainC: number; tauS: number; deadS: number; ambientC: number } | undefined {
  const heater = partFor(facts, 'heater', body);
  if (!heater) return undefined;
  const { volts, body: curve } = heater.type;
  const power = volts > LOW_VOLTAGE ? 1 : (facts.machine.supply.volts_v / volts) ** 2;
  const cap = numberOf(settings, `power.${body}`) / 100;
  return { gainC: curve.gain_c * power * cap, tauS: curve.tau_s, deadS: curve.dead_s, ambientC: AMBIENT_C };
}
