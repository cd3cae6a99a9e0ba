import { type Facts, partFor } from '../machine/facts';
import { isRead } from '../kit/kit';
import type { Warmed } from '../machine/machine';
import { isMains } from '../parts/part';
import { heatKey } from './heatKey';
import { numberOf, type Settings } from './setting';

/** Room temperature that heat is reckoned from, in °C. */
export const AMBIENT_C = 21;

/** How a heated body warms on this machine: its curve at the real supply, with the power cap as set. */
export function heaterCurve(
  facts: Facts,
  settings: Settings,
  body: Warmed,
): { gainC: number; tauS: number; deadS: number; ambientC: number } | undefined {
  const heater = partFor(facts, 'heater', body);
  if (!heater) return undefined;
  const { volts, body: curve } = heater.type;
  // Nobody has seen it warm yet.
  if (!curve) return undefined;
  const power = isMains(heater.type) ? 1 : (facts.machine.supply.volts_v / volts) ** 2;
  // A cap that this version of the kit does not read holds nothing back.
  const key = `power.${heatKey(body)}`;
  const cap = isRead(facts.kit, key) ? numberOf(settings, key) / 100 : 1;
  return { gainC: curve.gain_c * power * cap, tauS: curve.tau_s, deadS: curve.dead_s, ambientC: AMBIENT_C };
}
