import type { Done, Job } from '@jolly/core/ripple/job';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { KeptDeed } from './keptDeeds';
import type { WindowStorage } from './outbox';
import { store, type Watched } from './store';
import type { Way } from './way';

/** What of a job a person changes. */
export type JobParts = Pick<Job, 'title' | 'changes' | 'taken' | 'done'>;

/** What of a job a person changes, and nothing else of it. */
export const partsOf = ({ title, changes, taken, done }: JobParts): JobParts => ({
  title,
  changes,
  taken,
  done,
});

/** A change of the machine file, by the version it led to; it has none while it waits for the server. */
export interface FileDeed {
  kind: 'machine';
  label: string;
  version?: number;
}
export interface JobDeed {
  kind: 'job';
  job: number;
  label: string;
  before: JobParts;
  after: JobParts;
}
/** Something that was done in this window and can be taken back. */
export type Deed = FileDeed | JobDeed | KeptDeed;

export interface DoneAndUndone {
  /** The last one last. */
  done: readonly Deed[];
  /** What was taken back, to be done again; the next one last. */
  undone: readonly Deed[];
}

export interface Deeds extends Watched<DoneAndUndone> {
  /** Something is being done that may become one of these: who takes something back waits for it. */
  during<T>(work: Promise<T>): Promise<T>;
  /** All that is being done has ended, one way or the other. */
  settled(): Promise<void>;
  /** Something new was done: what had been taken back can no longer be done again. */
  did(deed: Deed): void;
  /** Deeds at any other job than this one can no longer be taken back: it was ended, or another was opened. */
  onlyOf(job: number | undefined): void;
  /** The oldest change that waits for the server is saved by now, as this version. */
  arrived(version: number): void;
  /** No change waits for the server any more: those that did were refused, or settled otherwise. */
  nothingWaits(): void;
  /** The last deed goes back, or the last that went back is done again; as it stands then, where that is otherwise. */
  goes(way: Way, as?: Deed): void;
  /** The next one that would go can go no more. */
  cannotGo(way: Way): void;
}

/** Older ones can no longer be taken back. */
const MOST = 50;
const NOTHING: DoneAndUndone = { done: [], undone: [] };

/** What was done in this window at a machine, in order; it outlives a reload. */
export function deedsOf(machineId: string, storage: WindowStorage): Deeds {
  const name = `deeds:${machineId}`;
  const all = store<DoneAndUndone>(stored(storage, name));
  const keep = (next: DoneAndUndone) => {
    all.set(next);
    try {
      storage.setItem(name, JSON.stringify(next));
    } catch {
      // The browser has no room: a reload forgets them.
    }
  };
  const only = (stays: (deed: Deed) => boolean) => {
    const { done, undone } = all.now();
    if (![...done, ...undone].every(stays)) keep({ done: done.filter(stays), undone: undone.filter(stays) });
  };
  const underway = new Set<Promise<unknown>>();
  return {
    ...all,
    during(work) {
      underway.add(work);
      const ended = () => void underway.delete(work);
      work.then(ended, ended);
      return work;
    },
    async settled() {
      while (underway.size > 0) await Promise.allSettled(underway);
    },
    did: (deed) => keep({ done: [...all.now().done, deed].slice(-MOST), undone: [] }),
    onlyOf: (job) => only((deed) => deed.kind !== 'job' || deed.job === job),
    arrived(version) {
      const { done, undone } = all.now();
      const first = done.findIndex(waits);
      keep({ done: done.map((deed, at) => (at === first ? { ...deed, version } : deed)), undone });
    },
    nothingWaits: () => only((deed) => !waits(deed)),
    goes(way, as) {
      const { done, undone } = all.now();
      const last = as ?? (way === 'undo' ? done : undone).at(-1);
      if (!last) return;
      keep(
        way === 'undo'
          ? { done: done.slice(0, -1), undone: [...undone, last] }
          : { done: [...done, last], undone: undone.slice(0, -1) },
      );
    },
    cannotGo(way) {
      const { done, undone } = all.now();
      keep(way === 'undo' ? { done: done.slice(0, -1), undone } : { done, undone: undone.slice(0, -1) });
    },
  };
}

const waits = (deed: Deed): boolean => deed.kind === 'machine' && deed.version === undefined;

function stored(storage: WindowStorage, name: string): DoneAndUndone {
  try {
    // Written by this module under this name.
    return (JSON.parse(storage.getItem(name) ?? 'null') as DoneAndUndone | null) ?? NOTHING;
  } catch {
    return NOTHING;
  }
}

/**
 * A job as it is now, with what one deed made of it made the other way: only what that deed changed, and only where it
 * still stands; ticks of others stay.
 */
export function jobTurned(now: JobParts, { before, after }: { before: JobParts; after: JobParts }): JobParts {
  const ids = (list: readonly Done[]) => new Set(list.map(({ id }) => id));
  const [had, has] = [ids(before.done), ids(after.done)];
  const left = now.done.filter(({ id }) => had.has(id) || !has.has(id));
  const back = before.done.filter(({ id }) => !has.has(id) && !ids(left).has(id));
  const turned = <Key extends 'title' | 'changes' | 'taken'>(key: Key): JobParts[Key] =>
    sameValue(now[key], after[key]) ? before[key] : now[key];
  return { title: turned('title'), changes: turned('changes'), taken: turned('taken'), done: [...left, ...back] }; // prettier-ignore
}
