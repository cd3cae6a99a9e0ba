import type { QueryClient } from '@tanstack/react-query';

/** What the server holds, by the names under which this window remembers it: for all, and of one machine. */
export type HeldForAll =
  'machines' | 'catalogue' | 'own-types' | 'descriptions' | 'begun-boards' | 'demo' | 'archive';
export type HeldOfMachine =
  | 'machine'
  | 'edits'
  | 'job'
  | 'entries'
  | 'photos'
  | 'wayBack'
  | 'calibrations'
  | 'board'
  | 'proofs'
  | 'builds'
  | 'flashes'
  | 'flashRun'
  | 'firstPower'
  | 'costs';

export const held = (name: HeldForAll) => [name] as const;
export const heldOf = (machine: string, name: HeldOfMachine) => [name, machine] as const;

/** What hangs on what is held for all: a part or board that is described anew voids what was found with it, and a machine says where it stands. */
const HANGS_ON: Partial<Record<HeldForAll, readonly HeldOfMachine[]>> = {
  catalogue: ['machine', 'proofs', 'firstPower'],
  archive: ['machine'],
};

/** Asks the server anew for what it holds, and all that was made of it. */
export const askAnew = (client: QueryClient, ...names: readonly HeldForAll[]): Promise<unknown> =>
  Promise.all(
    names
      .flatMap((name) => [name, ...(HANGS_ON[name] ?? [])])
      .map((name) => client.invalidateQueries({ queryKey: [name] })),
  );
export const askAnewOf = (
  client: QueryClient,
  machine: string,
  ...names: readonly HeldOfMachine[]
): Promise<unknown> =>
  Promise.all(names.map((name) => client.invalidateQueries({ queryKey: heldOf(machine, name) })));
