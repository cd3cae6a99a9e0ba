import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import type { Place } from '@jolly/contract/machine';
import type { Machine } from '@jolly/core/machine/machine';
import type { Setting } from '@jolly/core/settings/setting';
import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { resolve } from '@jolly/core/machine/facts';
import { skipToken, useQuery } from '@tanstack/react-query';
import type { Remote } from 'comlink';
import { createContext, type ReactNode, useContext, useEffect, useMemo } from 'react';
import { askedCatalogue } from '../api/asked';
import type { Consequences, CoreWorker } from './coreWorker';
import type { KnownMachine } from '@jolly/session/known';
import type { Conflict } from '@jolly/session/machineSaving';
import { type Deeds, deedsOf, type FileDeed } from '@jolly/session/deeds';
import type { Way } from '@jolly/session/way';
import { type Preview, previewing, type Previewing } from '@jolly/session/preview';
import { useWatched } from '../ui/useWatched';
import { coreWorker } from './core';
import { useSaving } from './useSaving';
import { heldOf } from '../api/held';

/** The ways to change the machine at hand. */
export interface WorkbenchActs {
  /** Saves a change; refused changes come back as a sentence. */
  change(label: string, edits: Edit[]): Promise<string | undefined>;
  /** Saves a whole machine file as one change. */
  replace(label: string, machine: Machine): Promise<string | undefined>;
  /** Takes a change of the file back, or makes it again. */
  turn(deed: FileDeed, way: Way): Promise<void>;
  /** Saves a machine that was merged, or lets this window's change go when there is none. */
  settle(machine?: Machine): Promise<string | undefined>;
  /** Shows what would follow, before it is made; a change that cannot be comes back with why. */
  showPreview(label: string, edits: Edit[]): Promise<string | undefined>;
  /** Shows what follows while somebody types; nothing is saved. */
  tryOut(label: string, edits: Edit[]): void;
  dropPreview(): void;
}

export interface Workbench extends WorkbenchActs, KnownMachine {
  /** On the shelf, archived, or deleted. */
  at: Place;
  settings: Map<string, Setting>;
  files: GeneratedFile[];
  /** Computes away from the interface. */
  core: Remote<CoreWorker>;
  /** What was done in this window, at file and job, to be taken back in order. */
  deeds: Deeds;
  conflict?: Conflict;
  /** How often a conflict was settled, one way or the other. */
  settled: number;
}

const WorkbenchContext = createContext<Workbench | undefined>(undefined);
/** Apart from the workbench, so that a key press draws only what shows it. */
const PreviewContext = createContext<Preview | undefined>(undefined);

/** One machine with everything that follows from it, and the way to change it. */
export function WorkbenchProvider({
  id,
  children,
  meanwhile,
  failed,
}: {
  id: string;
  children: ReactNode;
  meanwhile: ReactNode;
  failed: (why: string) => ReactNode;
}) {
  const catalogue = useQuery(askedCatalogue);
  const deeds = useMemo(() => deedsOf(id, sessionStorage), [id]);
  const { saving, waiting, conflict, settled } = useSaving(id, deeds);
  const stored = useQuery({ queryKey: heldOf(id, 'machine'), queryFn: saving.load });
  const known = catalogue.data;
  const machine = stored.data?.machine;
  const consequences = useQuery<Consequences>({
    queryKey: ['consequences', id, stored.data?.version, waiting],
    queryFn: known && machine ? () => coreWorker(known).consequences(machine) : skipToken,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  const previews = useMemo(
    () =>
      previewing((machine) =>
        known ? coreWorker(known).look(machine) : Promise.reject(new Error('no catalogue yet')),
      ),
    [known],
  );
  const preview = useWatched(previews.preview);
  useEffect(() => previews.drop(), [id, previews]);

  const acts = useWorkbenchActs({ saving, deeds, previews, machine: known && machine });

  const bench = useMemo((): Workbench | { problem: string } | undefined => {
    if (!stored.data || !catalogue.data || !consequences.data) return undefined;
    if ('problems' in consequences.data)
      return {
        problem: consequences.data.problems
          .map((problem) => `${problem.path}: ${problem.message}`)
          .join('; '),
      };
    const resolved = resolve(stored.data.machine, catalogue.data);
    if ('problems' in resolved) return { problem: resolved.problems[0].message };
    const { settings, findings, files } = consequences.data;
    const { board, chip, kit } = resolved.facts;
    return {
      machine: stored.data.machine,
      version: stored.data.version,
      at: stored.data.at,
      facts: resolved.facts,
      board,
      chip,
      kit,
      settings: new Map(settings.map((setting) => [setting.key, setting])),
      findings,
      files,
      core: coreWorker(catalogue.data),
      deeds,
      ...acts,
      ...(conflict && { conflict }),
      settled,
    };
  }, [stored.data, catalogue.data, consequences.data, acts, deeds, conflict, settled]);

  // What is known stays on the screen when asking for it again fails.
  const error = [stored, catalogue, consequences].find(
    (query) => query.data === undefined && query.error,
  )?.error;
  if (error) return failed(error.message);
  if (!bench) return meanwhile;
  if ('problem' in bench) return failed(bench.problem);
  return (
    <WorkbenchContext value={bench}>
      <PreviewContext value={preview}>{children}</PreviewContext>
    </WorkbenchContext>
  );
}

/** What is done with a machine and with what a remedy would make of it. */
function useWorkbenchActs({
  saving,
  deeds,
  previews,
  machine,
}: Pick<ReturnType<typeof useSaving>, 'saving'> & {
  deeds: Deeds;
  previews: Previewing;
  /** Once it can be looked at. */
  machine: Machine | undefined;
}): WorkbenchActs {
  return useMemo((): WorkbenchActs => {
    const save: typeof saving.save = (label, make) => {
      previews.drop();
      return deeds.during(saving.save(label, make));
    };
    const look = async (label: string, list: Edit[], draft: boolean) => {
      if (!machine) return 'The machine is not known yet.';
      return previews.show(machine, label, list, draft);
    };
    return {
      change: (label, list) => save(label, (now) => applyEdits(now, list)),
      replace: (label, after) => save(label, () => after),
      turn: saving.turn,
      settle: saving.settle,
      showPreview: (label, list) => look(label, list, false),
      tryOut: (label, list) => void look(label, list, true),
      dropPreview: previews.drop,
    };
  }, [deeds, machine, previews, saving]);
}

export function useWorkbench(): Workbench {
  const bench = useContext(WorkbenchContext);
  if (!bench) throw new Error('useWorkbench needs a WorkbenchProvider around it');
  return bench;
}

/** The change that is shown before it is made, if any. */
export const usePreview = (): Preview | undefined => useContext(PreviewContext);
