import { Refusal } from '@jolly/contract/refusal';
import { cut } from '@jolly/core/text/plainText';
import { LONGEST_LABEL } from '@jolly/contract/endpoints/machines';
import type { Machine } from '@jolly/core/machine/machine';
import { sameValue } from '@jolly/core/tree/sameValue';
import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api } from '../api/api';
import type { StoredMachine } from '@jolly/contract/machine';
import { currentPresence, ServerGone } from '../api/presence';
import { useOutbox } from '../api/useOutbox';
import { usePresence } from '../api/usePresence';
import { useTape } from '../app/tape/tape';

/** A change that met another one: what this window began with, what it wants, and what stands there now. */
export interface Conflict {
  label: string;
  base: Machine;
  mine: Machine;
  theirs: StoredMachine;
  /** What the other window's changes were called. */
  changes: string[];
}

/** A change that waits for the server: the whole machine before and after, and the version it was made from. */
interface WaitingChange {
  label: string;
  version: number;
  before: Machine;
  after: Machine;
}

/**
 * The changes of one machine on their way to the server: one after another, each made from what the one before left.
 * While the server is gone they are shown and wait; when it is back they are sent in order, and one that meets another
 * window's change becomes a conflict to settle.
 */
export function useSaving(id: string) {
  const client = useQueryClient();
  const { write } = useTape();
  const presence = usePresence();
  const outbox = useOutbox<WaitingChange>(`machine:${id}`);
  const [conflict, setConflict] = useState<Conflict>();
  const [settled, setSettled] = useState(0);
  const queue = useRef<Promise<unknown>>(Promise.resolve());
  const inTurn = useCallback(<T>(work: () => Promise<T>): Promise<T> => {
    const next = queue.current.then(work);
    queue.current = next.catch(() => undefined);
    return next;
  }, []);

  useEffect(() => setConflict(undefined), [id]);

  const taken = useCallback(
    (saved: StoredMachine) => {
      client.setQueryData(['machine', id], saved);
      for (const key of [['machines'], ['edits', id]]) void client.invalidateQueries({ queryKey: key });
    },
    [client, id],
  );

  /** Reads the machine; what waits stands over what the server has. */
  const load = useCallback(async (): Promise<StoredMachine> => {
    const fresh = await api.machine({ id });
    const last = outbox.now().at(-1);
    return last?.version === fresh.version ? { ...fresh, machine: last.after } : fresh;
  }, [id, outbox]);

  const meet = useCallback((error: unknown, label: string, base: Machine, mine: Machine): void => {
    if (!(error instanceof Refusal) || error.code !== 'stale' || !error.more.current) return;
    const { current: theirs, changes = [] } = error.more;
    setConflict({ label, base, mine, theirs, changes });
  }, []);

  const save = useCallback(
    (label: string, make: (now: Machine) => Machine): Promise<string | undefined> =>
      inTurn(async () => {
        const now = client.getQueryData<StoredMachine>(['machine', id]);
        if (!now) return 'the machine is not loaded';
        const after = make(now.machine);
        const wait = () => {
          outbox.put([...outbox.now(), { label, version: now.version, before: now.machine, after }]);
          client.setQueryData(['machine', id], { ...now, machine: after });
          write('done', `Waits for the server: ${label}`);
          return undefined;
        };
        if (outbox.now().length > 0 || !currentPresence().here) return wait();
        try {
          taken(
            await api.saveMachine(
              { id: after.id },
              { machine: after, version: now.version, label: cut(label, LONGEST_LABEL) },
            ),
          );
        } catch (error) {
          if (error instanceof ServerGone) return wait();
          meet(error, label, now.machine, after);
          return (error as Error).message;
        }
        write('done', label);
        return undefined;
      }),
    [client, id, inTurn, meet, outbox, taken, write],
  );

  /** Sends what waits. What cannot be sent now goes on waiting. */
  const send = useCallback(
    () =>
      inTurn(async () => {
        let version: number | undefined;
        for (let entry = outbox.now()[0]; entry; entry = outbox.now()[0]) {
          const { label, before, after } = entry;
          try {
            const saved = await api.saveMachine(
              { id: after.id },
              { machine: after, version: version ?? entry.version, label: cut(label, LONGEST_LABEL) },
            );
            version = saved.version;
            outbox.put(outbox.now().slice(1));
            if (outbox.now().length === 0) taken(saved);
            write('done', `${label} (it had waited for the server)`);
          } catch (error) {
            if (error instanceof ServerGone) return;
            const there = error instanceof Refusal ? error.more.current : undefined;
            if (there && sameValue(there.machine, after)) {
              // It had arrived, and only the answer was lost.
              version = there.version;
              outbox.put(outbox.now().slice(1));
              if (outbox.now().length === 0) taken(there);
              continue;
            }
            const all = outbox.now();
            meet(error, all.map((waiting) => waiting.label).join('; '), before, all.at(-1)!.after);
            if (!there) {
              outbox.put([]);
              write('done', `Not saved: ${label}: ${(error as Error).message}`);
              await client.invalidateQueries({ queryKey: ['machine', id] });
            }
            return;
          }
        }
      }),
    [client, id, inTurn, meet, outbox, taken, write],
  );

  const waiting = outbox.waiting.length;
  const loaded = client.getQueryData(['machine', id]) !== undefined;
  useEffect(() => {
    if (presence.here && waiting > 0 && loaded && !conflict) void send();
  }, [presence.here, waiting, loaded, conflict, send]);

  const settle = useCallback(
    async (merged?: Machine) => {
      if (!conflict) return undefined;
      outbox.put([]);
      taken(conflict.theirs);
      setConflict(undefined);
      setSettled((count) => count + 1);
      if (!merged) return undefined;
      try {
        taken(
          await api.saveMachine(
            { id: merged.id },
            { machine: merged, version: conflict.theirs.version, label: cut(conflict.label, LONGEST_LABEL) },
          ),
        );
      } catch (error) {
        await client.invalidateQueries({ queryKey: ['machine', id] });
        return (error as Error).message;
      }
      write('done', `${conflict.label}, merged with what was changed elsewhere`);
      return undefined;
    },
    [client, conflict, id, outbox, taken, write],
  );

  /** Takes the last waiting change back; false when none waits. */
  const takeBack = useCallback((): boolean => {
    const last = outbox.now().at(-1);
    const now = client.getQueryData<StoredMachine>(['machine', id]);
    // While it is being sent it is too late.
    if (!last || !now || currentPresence().here) return false;
    outbox.put(outbox.now().slice(0, -1));
    client.setQueryData(['machine', id], { ...now, machine: last.before });
    write('done', `Undone: ${last.label}`);
    return true;
  }, [client, id, outbox, write]);

  return { load, save, taken, settle, takeBack, waiting, settled, ...(conflict && { conflict }) };
}
