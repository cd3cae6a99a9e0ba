import type { Client } from '@jolly/contract/client';
import { LONGEST_LABEL } from '@jolly/contract/endpoints/machines';
import type { StoredMachine } from '@jolly/contract/machine';
import { Refusal } from '@jolly/contract/refusal';
import type { Machine } from '@jolly/core/machine/machine';
import { cut } from '@jolly/core/text/plainText';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { Outbox } from './outbox';
import { type Presence, ServerGone } from './presence';
import { inTurn, store, type Watched } from './store';
import { whyOf } from '@jolly/core/text/whyOf';

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
export interface WaitingChange {
  label: string;
  version: number;
  before: Machine;
  after: Machine;
}

/** Where the window holds the machine as it shows it. */
export interface Shown {
  now(): StoredMachine | undefined;
  show(machine: StoredMachine): void;
  /** Asks for it anew. */
  reload(): Promise<unknown>;
}

export interface SavingPorts {
  client: Pick<Client, 'machine' | 'saveMachine' | 'undo' | 'redo'>;
  presence: Watched<Presence>;
  outbox: Outbox<WaitingChange>;
  shown: Shown;
  /** Something was saved: what is listed of the machine elsewhere is old. */
  saved: () => void;
  /** Writes on the tape. */
  say: (text: string) => void;
}

export interface MachineSaving {
  /** Reads the machine; what waits stands over what the server has. */
  load(): Promise<StoredMachine>;
  /** Makes a change from what the one before left; a refusal comes back as a sentence. */
  save(label: string, make: (now: Machine) => Machine): Promise<string | undefined>;
  undo(): Promise<void>;
  redo(): Promise<void>;
  conflict: Watched<Conflict | undefined>;
  /** How often a conflict was settled, one way or the other. */
  settled: Watched<number>;
  /** Saves a machine that was merged, or lets this window's change go when there is none. */
  settle(merged?: Machine): Promise<string | undefined>;
  /** Sends what waits, as soon as the server is there; what cannot be sent goes on waiting. */
  send(): Promise<void>;
}

/**
 * The changes of one machine on their way to the server: one after another, each made from what the one before left.
 * While the server is gone they are shown and wait; when it is back they are sent in order, and one that meets another
 * window's change becomes a conflict to settle.
 */
export function machineSaving(id: string, ports: SavingPorts): MachineSaving {
  const { client, presence, outbox, shown, say } = ports;
  const conflict = store<Conflict | undefined>(undefined);
  const settled = store(0);
  const turn = inTurn();

  const taken = (saved: StoredMachine) => {
    shown.show(saved);
    ports.saved();
  };
  const put = (label: string, machine: Machine, version: number) =>
    client.saveMachine({ id }, { machine, version, label: cut(label, LONGEST_LABEL) });
  const meet = (error: unknown, label: string, base: Machine, mine: Machine) => {
    if (!(error instanceof Refusal) || error.code !== 'stale' || !error.more.current) return;
    const { current: theirs, changes = [] } = error.more;
    conflict.set({ label, base, mine, theirs, changes });
  };
  const wait = (label: string, { version, machine: before, ...rest }: StoredMachine, after: Machine) => {
    outbox.put([...outbox.now(), { label, version, before, after }]);
    shown.show({ ...rest, version, machine: after });
    say(`Waits for the server: ${label}`);
  };

  async function saveNow(label: string, make: (now: Machine) => Machine): Promise<string | undefined> {
    const now = shown.now();
    if (!now) return 'the machine is not loaded';
    const after = make(now.machine);
    if (outbox.now().length > 0 || !presence.now().here) return void wait(label, now, after);
    try {
      taken(await put(label, after, now.version));
    } catch (error) {
      if (error instanceof ServerGone) return void wait(label, now, after);
      meet(error, label, now.machine, after);
      return whyOf(error);
    }
    say(label);
    return undefined;
  }

  /** The first that waits has arrived, as this: what waits behind it stands on it, and the last one shows it. */
  const arrived = (saved: StoredMachine) => {
    const { version } = saved;
    outbox.put(
      outbox
        .now()
        .slice(1)
        .map((behind) => ({ ...behind, version })),
    );
    if (outbox.now().length === 0) taken(saved);
  };

  async function sendAll(): Promise<void> {
    for (let entry = outbox.now()[0]; entry; entry = outbox.now()[0]) {
      try {
        const saved = await put(entry.label, entry.after, entry.version);
        arrived(saved);
        say(`${entry.label} (it had waited for the server)`);
      } catch (error) {
        if (error instanceof ServerGone) return;
        const there = error instanceof Refusal ? error.more.current : undefined;
        if (!there || !sameValue(there.machine, entry.after)) return refused(error, entry, there);
        // It had arrived, and only the answer was lost.
        arrived(there);
      }
    }
  }

  async function refused(
    error: unknown,
    { label, before, after }: WaitingChange,
    there: StoredMachine | undefined,
  ): Promise<void> {
    const all = outbox.now();
    meet(error, all.map((waiting) => waiting.label).join('; '), before, all.at(-1)?.after ?? after);
    if (there) return;
    outbox.put([]);
    say(`Not saved: ${label}: ${whyOf(error)}`);
    await shown.reload();
  }

  /** Takes the last waiting change back; false when none waits. */
  function takeBack(): boolean {
    const last = outbox.now().at(-1);
    const now = shown.now();
    // While it is being sent it is too late.
    if (!last || !now || presence.now().here) return false;
    outbox.put(outbox.now().slice(0, -1));
    shown.show({ ...now, machine: last.before });
    say(`Undone: ${last.label}`);
    return true;
  }

  async function go(way: 'undo' | 'redo'): Promise<void> {
    if (way === 'undo' && takeBack()) return;
    try {
      const { label, ...saved } = await client[way]({ id });
      taken(saved);
      say(`${way === 'undo' ? 'Undone' : 'Done again'}: ${label}`);
    } catch (error) {
      say(`Could not ${way}: ${whyOf(error)}`);
      await shown.reload();
    }
  }

  async function settle(merged?: Machine): Promise<string | undefined> {
    const met = conflict.now();
    if (!met) return undefined;
    outbox.put([]);
    taken(met.theirs);
    conflict.set(undefined);
    settled.set(settled.now() + 1);
    if (!merged) return undefined;
    try {
      taken(await put(met.label, merged, met.theirs.version));
    } catch (error) {
      await shown.reload();
      return whyOf(error);
    }
    say(`${met.label}, merged with what was changed elsewhere`);
    return undefined;
  }

  return {
    async load() {
      const fresh = await client.machine({ id });
      const last = outbox.now().at(-1);
      return last?.version === fresh.version ? { ...fresh, machine: last.after } : fresh;
    },
    save: (label, make) => turn(() => saveNow(label, make)),
    undo: () => go('undo'),
    redo: () => go('redo'),
    conflict,
    settled,
    settle,
    send: () => turn(async () => (conflict.now() ? undefined : sendAll())),
  };
}
