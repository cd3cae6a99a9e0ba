import type { Board } from '@jolly/core/board/board';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Chip } from '@jolly/core/board/chip';
import type { Finding } from '@jolly/core/finding/finding';
import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import type { Kit } from '@jolly/core/kit/kit';
import type { Machine } from '@jolly/core/machine/machine';
import type { Setting } from '@jolly/core/settings/setting';
import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type Remote, wrap } from 'comlink';
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { api } from '../api/api';
import { useTape } from '../app/tape/tape';
import type { Consequences, CoreWorker } from './coreWorker';
import { type Conflict, useSaving } from './useSaving';

/** A change that is shown before it is made, with what would follow from it. */
export interface Preview {
  label: string;
  edits: Edit[];
  machine: Machine;
  settings: Setting[];
  findings: Finding[];
  /** Still being typed: it is shown, and made by leaving the field. */
  draft: boolean;
}

export interface Workbench {
  machine: Machine;
  version: number;
  facts: Facts;
  board: Board;
  chip: Chip;
  kit: Kit;
  settings: Map<string, Setting>;
  findings: Finding[];
  files: GeneratedFile[];
  /** Computes away from the interface. */
  core: Remote<CoreWorker>;
  /** Saves a change; refused changes come back as a sentence. */
  change(label: string, edits: Edit[]): Promise<string | undefined>;
  undo(): Promise<void>;
  redo(): Promise<void>;
  canUndo: boolean;
  canRedo: boolean;
  showPreview(label: string, edits: Edit[]): Promise<void>;
  /** Shows what follows while somebody types; nothing is saved. */
  tryOut(label: string, edits: Edit[]): void;
  dropPreview(): void;
  conflict?: Conflict;
  /** How often a conflict was settled, one way or the other. */
  settled: number;
  /** Saves a machine that was merged, or lets this window's change go when there is none. */
  settle(machine?: Machine): Promise<string | undefined>;
  /** Saves a whole machine file as one change. */
  replace(label: string, machine: Machine): Promise<string | undefined>;
}

const WorkbenchContext = createContext<Workbench | undefined>(undefined);
/** Apart from the workbench, so that a key press draws only what shows it. */
const PreviewContext = createContext<Preview | undefined>(undefined);

let core: Remote<CoreWorker> | undefined;
let known: Catalogue | undefined;
/** The one worker that computes; it is told of the catalogue whenever that has changed. */
function coreWorker(catalogue: Catalogue): Remote<CoreWorker> {
  core ??= wrap<CoreWorker>(new Worker(new URL('./coreWorker.ts', import.meta.url), { type: 'module' }));
  if (known !== catalogue) void core.setCatalogue(catalogue);
  known = catalogue;
  return core;
}

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
  const client = useQueryClient();
  const { write } = useTape();
  const catalogue = useQuery({ queryKey: ['catalogue'], queryFn: api.catalogue, staleTime: Infinity });
  const { load, save: saveInTurn, taken, settle, takeBack, waiting, conflict, settled } = useSaving(id);
  const stored = useQuery({ queryKey: ['machine', id], queryFn: load });
  const consequences = useQuery<Consequences>({
    queryKey: ['consequences', id, stored.data?.version, waiting],
    queryFn: () => coreWorker(catalogue.data!).consequences(stored.data!.machine),
    enabled: catalogue.data !== undefined && stored.data !== undefined,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  const edits = useQuery({ queryKey: ['edits', id], queryFn: () => api.edits({ id }) });
  const [preview, setPreview] = useState<Preview>();
  const tried = useRef(0);

  useEffect(() => setPreview(undefined), [id]);

  const machine = stored.data?.machine;
  const save = useCallback(
    (label: string, make: (now: Machine) => Machine) => {
      tried.current += 1;
      setPreview(undefined);
      return saveInTurn(label, make);
    },
    [saveInTurn],
  );
  const replace = useCallback((label: string, after: Machine) => save(label, () => after), [save]);
  const change = useCallback(
    (label: string, list: Edit[]) => save(label, (now) => applyEdits(now, list)),
    [save],
  );

  const go = useCallback(
    async (way: 'undo' | 'redo') => {
      if (way === 'undo' && takeBack()) return;
      try {
        const { label, ...saved } = await api[way]({ id });
        taken(saved);
        write('done', `${way === 'undo' ? 'Undone' : 'Done again'}: ${label}`);
      } catch (error) {
        write('done', `Could not ${way}: ${(error as Error).message}`);
        await client.invalidateQueries({ queryKey: ['machine', id] });
      }
    },
    [id, taken, takeBack, write, client],
  );
  const undo = useCallback(() => go('undo'), [go]);
  const redo = useCallback(() => go('redo'), [go]);
  const canUndo = waiting > 0 || (edits.data?.some((edit) => !edit.undone) ?? false);
  const canRedo = edits.data?.some((edit) => edit.undone) ?? false;

  const look = useCallback(
    async (label: string, list: Edit[], draft: boolean) => {
      if (!machine || !catalogue.data) return;
      const turn = (tried.current += 1);
      const after = applyEdits(machine, list);
      const result = await coreWorker(catalogue.data).look(after);
      // Typing goes on while the worker computes: only the newest counts.
      if (turn !== tried.current || 'problems' in result) return;
      setPreview({ label, edits: list, machine: after, draft, ...result });
    },
    [machine, catalogue.data],
  );
  const showPreview = useCallback((label: string, list: Edit[]) => look(label, list, false), [look]);
  const tryOut = useCallback((label: string, list: Edit[]) => void look(label, list, true), [look]);
  const dropPreview = useCallback(() => {
    tried.current += 1;
    setPreview(undefined);
  }, []);

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
      facts: resolved.facts,
      board,
      chip,
      kit,
      settings: new Map(settings.map((setting) => [setting.key, setting])),
      findings,
      files,
      core: coreWorker(catalogue.data),
      change,
      undo,
      redo,
      canUndo,
      canRedo,
      showPreview,
      tryOut,
      dropPreview,
      ...(conflict && { conflict }),
      settled,
      settle,
      replace,
    };
  }, [
    stored.data,
    catalogue.data,
    consequences.data,
    change,
    undo,
    redo,
    canUndo,
    canRedo,
    showPreview,
    tryOut,
    dropPreview,
    conflict,
    settled,
    settle,
    replace,
  ]);

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

export function useWorkbench(): Workbench {
  const bench = useContext(WorkbenchContext);
  if (!bench) throw new Error('useWorkbench needs a WorkbenchProvider around it');
  return bench;
}

/** The change that is shown before it is made, if any. */
export const usePreview = (): Preview | undefined => useContext(PreviewContext);
