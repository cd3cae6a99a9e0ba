import type { Client } from '@jolly/contract/client';
import { LONGEST_LABEL } from '@jolly/contract/endpoints/machines';
import type { StoredMachine } from '@jolly/contract/machine';
import { Refusal, type RefusalCode } from '@jolly/contract/refusal';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { cut } from '@jolly/core/text/plainText';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { Deeds, FileDeed } from './deeds';
import type { Way } from './way';
import type { Outbox } from './outbox';
import { isUnjudged, type Presence, ServerGone } from './presence';
import { inTurn, store, type Watched } from './store';
import { sayOnce } from './sayOnce';
import { ToldElsewhere } from './toldElsewhere';
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
  /** It was sent, and nobody heard whether it arrived. */
  sent?: true;
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
  /** What was done in this window, to be taken back. */
  deeds: Deeds;
  /** Writes on the tape. */
  say: (text: string) => void;
}

export interface MachineSaving {
  /** Reads the machine; what waits stands over what the server has. */
  load(): Promise<StoredMachine>;
  /**
   * Makes a change from what the one before left; a refusal comes back as a sentence.
   * @throws ToldElsewhere when it meets another window's change, which is a conflict then
   */
  save(label: string, make: (now: Machine) => Machine): Promise<string | undefined>;
  /** Takes a change of this window back, or makes it again. */
  turn(deed: FileDeed, way: Way): Promise<void>;
  conflict: Watched<Conflict | undefined>;
  /** How often a conflict was settled, one way or the other. */
  settled: Watched<number>;
  /**
   * Saves a machine that was merged, or lets this window's change go when there is none. What is refused is still to be
   * settled, and so is what meets one more change; while the server is gone it waits.
   */
  settle(merged?: Machine): Promise<string | undefined>;
  /** Sends what waits, as soon as the server is there; what cannot be sent goes on waiting. */
  send(): Promise<void>;
}

/** Refusals that will not change: what was done since stands against it. */
const FOR_GOOD: ReadonlySet<RefusalCode> = new Set(['nothing-to-do', 'not-so', 'unknown-id']);

/**
 * The changes of one machine on their way to the server: one after another, each made from what the one before left.
 * While the server is gone they are shown and wait; when it is back they are sent in order, and one that meets another
 * window's change becomes a conflict to settle.
 */
export function machineSaving(id: string, ports: SavingPorts): MachineSaving {
  const changes = new Changes(id, ports);
  const turn = inTurn();
  return {
    load: () => changes.load(),
    save: (label, make) => turn(() => changes.save(label, make)),
    turn: (deed, way) => turn(() => changes.turn(deed, way)),
    conflict: changes.conflict,
    settled: changes.settled,
    settle: (merged) => changes.settle(merged),
    send: () => turn(async () => (changes.conflict.now() ? undefined : changes.sendAll())),
  };
}

/** As above, one at a time. */
class Changes {
  readonly conflict = store<Conflict | undefined>(undefined);
  readonly settled = store(0);
  private readonly toldOnce;

  constructor(
    private readonly id: string,
    private readonly ports: SavingPorts,
  ) {
    this.toldOnce = sayOnce(ports.say);
  }

  async load(): Promise<StoredMachine> {
    const { client, outbox } = this.ports;
    const fresh = await client.machine({ id: this.id });
    const last = outbox.now().at(-1);
    return last?.version === fresh.version ? { ...fresh, machine: last.after } : fresh;
  }

  async save(label: string, make: (now: Machine) => Machine): Promise<string | undefined> {
    const { shown, outbox, presence, deeds, say } = this.ports;
    const now = shown.now();
    if (!now) return 'the machine is not loaded';
    const after = make(now.machine);
    const { error: wrong } = machineSchema().validate(after, { convert: false });
    // Also while the server is gone: what it would refuse must not wait for it.
    if (wrong) return wrong.message;
    if (outbox.now().length > 0 || !presence.now().here) return void this.wait(label, now, after);
    try {
      const saved = await this.put(label, after, now.version);
      this.taken(saved);
      deeds.did({ kind: 'machine', label, version: saved.version });
    } catch (error) {
      if (error instanceof ServerGone) return void this.wait(label, now, after, true);
      if (this.meet(error, label, now.machine, after)) throw new ToldElsewhere(whyOf(error));
      return whyOf(error);
    }
    say(label);
    return undefined;
  }

  async sendAll(): Promise<void> {
    const { outbox, say } = this.ports;
    const { told, fine } = this.toldOnce;
    for (let entry = outbox.now()[0]; entry; entry = outbox.now()[0]) {
      try {
        const saved = await this.put(entry.label, entry.after, entry.version);
        this.arrived(saved);
        fine();
        say(`${entry.label} (it had waited for the server)`);
      } catch (error) {
        if (error instanceof ServerGone)
          return outbox.put([{ ...entry, sent: true }, ...outbox.now().slice(1)]);
        if (isUnjudged(error)) return told(`Still waits: ${entry.label}: ${whyOf(error)}`);
        const there = error instanceof Refusal ? error.more.current : undefined;
        if (!there || !sameValue(there.machine, entry.after)) return this.refused(error, entry, there);
        // It had arrived, and only the answer was lost.
        this.arrived(there);
      }
    }
  }

  async turn(deed: FileDeed, way: Way): Promise<void> {
    const { client, deeds, say, shown } = this.ports;
    if (deed.version === undefined) return this.takeBack(deed);
    try {
      const { label, ...saved } = await client[way]({ id: this.id, version: String(deed.version) });
      this.taken(saved);
      deeds.goes(way);
      say(`${way === 'undo' ? 'Undone' : 'Done again'}: ${label}`);
    } catch (error) {
      if (error instanceof Refusal && FOR_GOOD.has(error.code)) deeds.cannotGo(way);
      say(`Could not ${way} “${deed.label}”: ${whyOf(error)}`);
      if (!(error instanceof ServerGone)) await shown.reload();
    }
  }

  async settle(merged?: Machine): Promise<string | undefined> {
    const { deeds, say } = this.ports;
    const met = this.conflict.now();
    if (!met) return undefined;
    const { label, theirs } = met;
    if (!merged) return void this.over(theirs);
    try {
      const saved = await this.put(label, merged, theirs.version);
      this.over(saved);
      deeds.did({ kind: 'machine', label, version: saved.version });
      say(`${label}, merged with what was changed elsewhere`);
    } catch (error) {
      if (error instanceof ServerGone) {
        this.over(theirs);
        this.wait(label, theirs, merged, true);
      } // Or it met one more change; what is refused for another reason is still to be settled.
      else if (!this.meet(error, label, theirs.machine, merged)) return whyOf(error);
    }
    return undefined;
  }

  private put(label: string, machine: Machine, version: number): Promise<StoredMachine> {
    const body = { machine, version, label: cut(label, LONGEST_LABEL) };
    return this.ports.client.saveMachine({ id: this.id }, body);
  }

  private taken(saved: StoredMachine): void {
    this.ports.shown.show(saved);
    this.ports.saved();
  }

  private meet(error: unknown, label: string, base: Machine, mine: Machine): boolean {
    if (!(error instanceof Refusal) || error.code !== 'stale' || !error.more.current) return false;
    const { current: theirs, changes = [] } = error.more;
    this.conflict.set({ label, base, mine, theirs, changes });
    return true;
  }

  private wait(
    label: string,
    { version, machine: before, ...rest }: StoredMachine,
    after: Machine,
    sent?: true,
  ): void {
    const { outbox, shown, deeds, say } = this.ports;
    outbox.put([...outbox.now(), { label, version, before, after, ...(sent && { sent }) }]);
    shown.show({ ...rest, version, machine: after });
    deeds.did({ kind: 'machine', label });
    say(`Waits for the server: ${label}`);
  }

  /** The first that waits has arrived, as this: what waits behind it stands on it, and the last one shows it. */
  private arrived(saved: StoredMachine): void {
    const { outbox, deeds } = this.ports;
    const { version } = saved;
    deeds.arrived(version);
    const [, ...behind] = outbox.now();
    outbox.put(behind.map((waiting) => ({ ...waiting, version })));
    if (behind.length === 0) this.taken(saved);
  }

  private async refused(
    error: unknown,
    { label, before, after }: WaitingChange,
    there: StoredMachine | undefined,
  ): Promise<void> {
    const { outbox, say, shown } = this.ports;
    const all = outbox.now();
    this.meet(error, all.map((waiting) => waiting.label).join('; '), before, all.at(-1)?.after ?? after);
    if (there) return;
    this.nothingWaits();
    say(`Not saved: ${label}: ${whyOf(error)}`);
    await shown.reload();
  }

  /** Takes the last waiting change back, for good: it never reached the server. */
  private takeBack({ label }: FileDeed): void {
    const { outbox, shown, deeds, say } = this.ports;
    const last = outbox.now().at(-1);
    const now = shown.now();
    // Who settles a conflict settles it too.
    if (!last || !now || this.conflict.now())
      return say(`Could not undo “${label}” yet: it is to be settled`);
    outbox.put(outbox.now().slice(0, -1));
    shown.show({ ...now, machine: last.before });
    deeds.cannotGo('undo');
    say(`Undone: ${last.label}${last.sent ? '; it may have reached the server: look when it is back' : ''}`);
  }

  /** What waited is in the conflict, which is over. */
  private over(known: StoredMachine): void {
    this.nothingWaits();
    this.taken(known);
    this.conflict.set(undefined);
    this.settled.set(this.settled.now() + 1);
  }

  private nothingWaits(): void {
    this.ports.outbox.put([]);
    this.ports.deeds.nothingWaits();
  }
}
