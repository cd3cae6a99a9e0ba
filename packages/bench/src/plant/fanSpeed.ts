import type { PlacedPart } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';
import type { Circuit } from './circuit';
import type { Live } from './live';

/** Share of its full speed that a fan turns at: too little and it does not start; too much and it burns out. */
export function fanSpeed(part: PlacedPart<PartOf<'fan'>>, circuit: Circuit, live: Live): number {
  const { volts, share } = circuit.fed(part.id);
  const gets = live.fanVolts.get(part.id) ?? volts;
  const wants = part.type.supply_v ?? gets;
  if (gets < wants * 0.4 || gets > wants * 1.6) return 0;
  return share * Math.min(1, gets / wants);
}
