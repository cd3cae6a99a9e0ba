import { type QueryClient, queryOptions } from '@tanstack/react-query';
import { api } from './api';
import { held, type HeldOfMachine, heldOf } from './held';

/** @param what as the frame says it where this cannot be found out and no view says so by itself */
const of =
  <Answer>(name: HeldOfMachine, ask: (machine: { id: string }) => Promise<Answer>, what?: string) =>
  (id: string) =>
    queryOptions({
      queryKey: heldOf(id, name),
      queryFn: () => ask({ id }),
      ...(what !== undefined && { meta: { what } }),
    });

/** How each thing that the server holds of a machine is asked for. */
export const askedOf = {
  job: of('job', api.job),
  wayBack: of('wayBack', api.wayBack),
  calibrations: of('calibrations', api.calibrations),
  photos: of('photos', api.photos),
  builds: of('builds', api.builds),
  board: of('board', api.board),
  proofs: of('proofs', api.proofs),
  entries: of('entries', api.entries),
  flashes: of('flashes', api.flashes),
  edits: of('edits', api.edits, 'earlier states of the machine file'),
  costs: of('costs', api.costs, 'what everything takes in the image'),
};

/** What is for all machines, and the same for as long as the window is open unless this window changes it. */
export const askedCatalogue = queryOptions({
  queryKey: held('catalogue'),
  queryFn: api.catalogue,
  staleTime: Infinity,
});

/** Asks for what every station of a machine waits for, while the station's own program is still on its way. */
export function askAhead(client: QueryClient, id: string): void {
  void client.prefetchQuery(askedCatalogue);
  void client.prefetchQuery(askedOf.job(id));
  void client.prefetchQuery(askedOf.wayBack(id));
  void client.prefetchQuery(askedOf.calibrations(id));
  void client.prefetchQuery(askedOf.photos(id));
  void client.prefetchQuery(askedOf.builds(id));
  void client.prefetchQuery(askedOf.board(id));
  void client.prefetchQuery(askedOf.proofs(id));
  void client.prefetchQuery(askedOf.entries(id));
  void client.prefetchQuery(askedOf.flashes(id));
}
