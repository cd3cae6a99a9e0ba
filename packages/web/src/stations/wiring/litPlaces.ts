import type { Landing } from '@jolly/core/machine/landing';
import type { RankedLanding } from '@jolly/core/harness/rankLandings';
import type { Lit } from '../../ui/BoardShape';
import { placeOf } from './leadLines';

/** The cheapest landing of each header or socket, and how it is lit. */
export function litPlaces(
  landings: readonly RankedLanding[],
  now: Landing | undefined,
): { places: Lit; best: Map<string, Landing> } {
  const places = new Map<string, { word: string; state: 'free' | 'taken' | 'here' }>();
  const best = new Map<string, Landing>();
  for (const { landing, price, clashes } of landings) {
    const id = placeOf(landing);
    if (best.has(id) || (clashes.length > 0 && places.has(id))) continue;
    if (clashes.length === 0) best.set(id, landing);
    places.set(id, {
      word: clashes.length > 0 ? '' : `${price}`,
      state: clashes.length > 0 ? 'taken' : 'free',
    });
  }
  const here = now && placeOf(now);
  if (here !== undefined) places.set(here, { word: '', state: 'here' });
  return { places, best };
}
