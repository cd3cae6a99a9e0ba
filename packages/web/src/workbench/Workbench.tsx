import {
  applyEdits,
  type Board,
  type Catalogue,
  type Chip,
  type Edit,
  type Facts,
  type Finding,
  type GeneratedFile,
  type Kit,
  type Machine,
  resolve,
  type Setting,
} from '@jolly/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type Remote, wrap } from 'comlink';
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react';
import { api, ApiProblem } from '../api/api';
import { useTape } from '../app/tape/tape';
import type { Consequences, CoreWorker } from './coreWorker';

/** A change that is shown before it is made. */
export interface Preview {
  label: string;
  edits: Edit[];
  machine: Machine;
  settings: Setting[];
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
  preview?: Preview;
  showPreview(label: string, edits: Edit[]): Promise<void>;
  dropPreview(): void;
}

interface Past {
  label: string;
  before: Machine;
  after: Machine;
}

const WorkbenchContext = createContext<Workbench | undefined>(undefined);

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
  waiting,
  failed,
}: {
  id: string;
  children: ReactNode;
  waiting: ReactNode;
  failed: (why: string) => ReactNode;
}) {
  const client = useQueryClient();
  const { write } = useTape();
  const catalogue = useQuery({ queryKey: ['catalogue'], queryFn: api.catalogue, staleTime: Infinity });
  const stored = useQuery({ queryKey: ['machine', id], queryFn: () => api.machine(id) });
  const consequences = useQuery<Consequences>({
    queryKey: ['consequences', id, stored.data?.version],
    queryFn: () => coreWorker(catalogue.data!).consequences(stored.data!.machine),
    enabled: catalogue.data !== undefined && stored.data !== undefined,
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  const [past, setPast] = useState<Past[]>([]);
  const [undone, setUndone] = useState<Past[]>([]);
  const [preview, setPreview] = useState<Preview>();

  useEffect(() => {
    setPast([]);
    setUndone([]);
    setPreview(undefined);
  }, [id]);

  const save = useCallback(
    async (machine: Machine): Promise<string | undefined> => {
      const current = client.getQueryData<{ version: number }>(['machine', id]);
      try {
        client.setQueryData(['machine', id], await api.saveMachine(machine, current?.version ?? 1));
        void client.invalidateQueries({ queryKey: ['machines'] });
        return undefined;
      } catch (error) {
        if (error instanceof ApiProblem && error.code === 'stale')
          await client.invalidateQueries({ queryKey: ['machine', id] });
        return (error as Error).message;
      }
    },
    [client, id],
  );

  const machine = stored.data?.machine;
  const change = useCallback(
    async (label: string, edits: Edit[]) => {
      if (!machine) return 'the machine is not loaded';
      const after = applyEdits(machine, edits);
      const refused = await save(after);
      setPreview(undefined);
      if (refused) return refused;
      setPast((all) => [...all, { label, before: machine, after }]);
      setUndone([]);
      write('done', label);
      return undefined;
    },
    [machine, save, write],
  );

  const undo = useCallback(async () => {
    const last = past.at(-1);
    if (!last || (await save(last.before))) return;
    setPast((all) => all.slice(0, -1));
    setUndone((all) => [...all, last]);
    write('done', `Undone: ${last.label}`);
  }, [past, save, write]);

  const redo = useCallback(async () => {
    const last = undone.at(-1);
    if (!last || (await save(last.after))) return;
    setUndone((all) => all.slice(0, -1));
    setPast((all) => [...all, last]);
    write('done', `Done again: ${last.label}`);
  }, [undone, save, write]);

  const showPreview = useCallback(
    async (label: string, edits: Edit[]) => {
      if (!machine || !catalogue.data) return;
      const after = applyEdits(machine, edits);
      const result = await coreWorker(catalogue.data).consequences(after);
      if ('settings' in result) setPreview({ label, edits, machine: after, settings: result.settings });
    },
    [machine, catalogue.data],
  );
  const dropPreview = useCallback(() => setPreview(undefined), []);

  const bench = useMemo((): Workbench | { problem: string } | undefined => {
    if (!stored.data || !catalogue.data || !consequences.data) return undefined;
    if ('problems' in consequences.data)
      return {
        problem: consequences.data.problems
          .map((problem) => `${problem.path}: ${problem.message}`)
          .join('; '),
      };
    const resolved = resolve(stored.data.machine, catalogue.data);
    if ('problems' in resolved) return { problem: resolved.problems[0]!.message };
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
      canUndo: past.length > 0,
      canRedo: undone.length > 0,
      ...(preview && { preview }),
      showPreview,
      dropPreview,
    };
  }, [
    stored.data,
    catalogue.data,
    consequences.data,
    change,
    undo,
    redo,
    past.length,
    undone.length,
    preview,
    showPreview,
    dropPreview,
  ]);

  const error = stored.error ?? catalogue.error ?? consequences.error;
  if (error) return failed(error.message);
  if (!bench) return waiting;
  if ('problem' in bench) return failed(bench.problem);
  return <WorkbenchContext value={bench}>{children}</WorkbenchContext>;
}

export function useWorkbench(): Workbench {
  const bench = useContext(WorkbenchContext);
  if (!bench) throw new Error('useWorkbench needs a WorkbenchProvider around it');
  return bench;
}
