import type { PlacedPart } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';
import type { Circuit, Fed } from './circuit';
import type { Live } from './live';

/** Shares of the volts on its label below which a load does nothing, and above which it has burnt out. */
const TOO_LITTLE = 0.4;
const TOO_MUCH = 1.6;

/** What a load with electronics in it takes of its full power: nothing the wrong way round. */
function taken({ share, reversed }: Fed, gets: number, wants: number): number {
  if (reversed || gets < wants * TOO_LITTLE || gets > wants * TOO_MUCH) return 0;
  return share * Math.min(1, gets / wants);
}

/** Share of its full speed that a fan turns at. */
export function fanSpeed(part: PlacedPart<PartOf<'fan'>>, circuit: Circuit, live: Live): number {
  const fed = circuit.fed(part.id);
  const gets = live.fanVolts.get(part.id) ?? fed.volts;
  return taken(fed, gets, part.type.supply_v ?? gets);
}

/** Share of its full light that a lamp gives: a strip of diodes. */
export function lampLight(part: PlacedPart<PartOf<'lamp'>>, circuit: Circuit): number {
  const fed = circuit.fed(part.id);
  return taken(fed, fed.volts, part.type.supply_v ?? fed.volts);
}
