import { Refusal } from '@jolly/contract/refusal';
import { whyOf } from '@jolly/core/text/whyOf';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { Outbox } from './outbox';
import { isUnjudged, ServerGone } from './presence';
import { inTurn, store, type Watched } from './store';

/** Something that is worked at for long, counted up with every save. */
export interface Worked {
  version: number;
  changedAt: string;
}
export type Saved = 'saved' | 'saving' | { refused: string };

export interface LongWorkPorts<W extends Worked> {
  read(): Promise<W>;
  save(work: W): Promise<Worked>;
  /** What is not known to be kept: states that may have arrived, and last the newest. Outlives a reload of its window. */
  outbox: Outbox<W>;
  shown: { now(): W | undefined; show(work: W): void; reload(): Promise<unknown> };
  kept(): void;
}

export interface LongWork<W extends Worked> {
  /** Reads it, and keeps what this window could not keep any more before it was left. */
  read(): Promise<W>;
  /** Changes it here at once, and keeps it; a refusal comes back in words. */
  change(to: (now: W) => W): Promise<string | undefined>;
  /** How the newest change stands. */
  saved: Watched<Saved>;
  /** Whether a change is on its way: what is read meanwhile is from before it. */
  isBusy(): boolean;
  /** Sends what waits, as soon as the server is there. */
  send(): Promise<void>;
  /** Resolves when everything changed is kept, or refused. */
  settled(): Promise<void>;
}

const WAITS = 'the server does not answer. It waits in this window, and is sent when it is back.';
const ELSEWHERE = 'It was changed elsewhere meanwhile. What you said here last is not in it: say it again.';
/** So many states are held against what the server has. */
const MOST_TRIED = 8;

const isStale = (problem: unknown): boolean => problem instanceof Refusal && problem.code === 'stale';
const wordsOf = (problem: unknown): string => (problem instanceof ServerGone ? WAITS : whyOf(problem));

/** Whether two states say the same, whenever they were kept. */
const sameWork = <W extends Worked>(one: W, other: W): boolean =>
  sameValue({ ...one, version: 0, changedAt: '' }, { ...other, version: 0, changedAt: '' });
const stampOf = ({ version, changedAt }: Worked): Worked => ({ version, changedAt });

/**
 * How the newest state is kept.
 * @param tried states that were sent; what is sent is added
 */
function keeping<W extends Worked>(
  { read, save, outbox }: Pick<LongWorkPorts<W>, 'read' | 'save' | 'outbox'>,
  tried: Set<W>,
): (newest: W, there?: W) => Promise<Worked> {
  /** Whether nothing else was kept since: what is there is what this window began from, or what it sent. */
  const isOurs = (there: W): boolean =>
    outbox.now().some((one) => one.version === there.version || sameWork(one, there));

  /**
   * Sends the newest until the server has it: a request that nobody heard the answer of may have arrived before it.
   * @param there what the server has, where that was just read
   */
  async function keepNewest(newest: W, there?: W): Promise<Worked> {
    if (there && !isOurs(there)) throw new Refusal('stale', ELSEWHERE);
    if (there && sameWork(newest, there)) return stampOf(there);
    const version = there?.version ?? newest.version;
    tried.add(newest);
    try {
      return stampOf(await save({ ...newest, version }));
    } catch (problem) {
      if (!isStale(problem)) throw problem;
      const later = await read();
      // It is not what was said to be stale: no more is known of it.
      if (later.version === version) throw problem;
      return keepNewest(newest, later);
    }
  }
  return keepNewest;
}

/** Keeps something with every change, one save behind the other, the newest state each time. */
export function longWork<W extends Worked>({
  read,
  save,
  outbox,
  shown,
  kept,
}: LongWorkPorts<W>): LongWork<W> {
  const turn = inTurn();
  const saved = store<Saved>('saved');
  let waiting = 0;
  /** States that were sent, and of which it is not known whether they arrived; all that a window left behind are. */
  const tried = new Set<W>(outbox.now());
  const keepNewest = keeping({ read, save, outbox }, tried);

  /** What was changed meanwhile goes on from what is kept now. */
  function arrived(newest: W, stamp: Worked): void {
    const later = outbox.now().at(-1);
    tried.clear();
    outbox.put(later && later !== newest ? [{ ...later, ...stamp }] : []);
    saved.set(outbox.now().length > 0 ? 'saving' : 'saved');
    kept();
  }

  function notKept(problem: unknown): void {
    saved.set({ refused: wordsOf(problem) });
    if (isUnjudged(problem)) return;
    tried.clear();
    outbox.put([]);
  }

  async function sendNow(): Promise<void> {
    const newest = outbox.now().at(-1);
    if (!newest) return;
    try {
      const stamp = await keepNewest(newest);
      arrived(newest, stamp);
      shown.show({ ...(shown.now() ?? newest), ...stamp });
    } catch (problem) {
      notKept(problem);
      if (!isUnjudged(problem)) await shown.reload();
    }
  }

  const send = async (): Promise<void> => {
    waiting += 1;
    await turn(sendNow).finally(() => (waiting -= 1));
  };

  /** What a window left behind goes on from what was read, where nothing else was kept since. */
  async function withLeft(there: W): Promise<W> {
    const newest = outbox.now().at(-1);
    if (!newest) return there;
    try {
      const stamp = await keepNewest(newest, there);
      arrived(newest, stamp);
      return { ...newest, ...stamp };
    } catch (problem) {
      notKept(problem);
      return isUnjudged(problem) ? { ...newest, version: there.version } : read();
    }
  }

  return {
    saved,
    isBusy: () => waiting > 0,
    read: async () => {
      const there = await read();
      return waiting > 0 && outbox.now().length > 0 ? (shown.now() ?? there) : withLeft(there);
    },
    change: async (to) => {
      const now = shown.now();
      if (!now) return undefined;
      saved.set('saving');
      const next = to(now);
      shown.show(next);
      outbox.put([
        ...outbox
          .now()
          .filter((one) => tried.has(one))
          .slice(-MOST_TRIED),
        next,
      ]);
      await send();
      const stands = saved.now();
      return typeof stands === 'object' ? stands.refused : undefined;
    },
    send,
    settled: () => turn(() => Promise.resolve()),
  };
}
