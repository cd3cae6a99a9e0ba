import { sameValue } from '@jolly/core/tree/sameValue';
import { whyOf } from '@jolly/core/text/whyOf';
import type { Outbox } from './outbox';
import { ServerGone } from './presence';
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
  /** What is not known to be kept: the state on its way, and the newest. Outlives a reload of its window. */
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

const wordsOf = (problem: unknown): string => (problem instanceof ServerGone ? WAITS : whyOf(problem));

/** Whether two states say the same, whenever they were kept. */
const sameWork = <W extends Worked>(one: W, other: W): boolean =>
  sameValue({ ...one, version: 0, changedAt: '' }, { ...other, version: 0, changedAt: '' });

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
  let onItsWay: W | undefined;

  /** A server that is gone may have it or not: it waits. A refused one is given up, and what is there is shown. */
  async function notKept(problem: unknown): Promise<void> {
    saved.set({ refused: wordsOf(problem) });
    if (problem instanceof ServerGone) return;
    outbox.put([]);
    await shown.reload();
  }

  async function sendNow(): Promise<void> {
    const newest = outbox.now().at(-1);
    if (!newest) return;
    onItsWay = newest;
    outbox.put([newest]);
    try {
      const { version, changedAt } = await save(newest);
      // What was changed meanwhile is there already, and is sent next.
      const later = outbox.now().at(-1);
      outbox.put(later && later !== newest ? [{ ...later, version, changedAt }] : []);
      shown.show({ ...(shown.now() ?? newest), version, changedAt });
      saved.set(outbox.now().length > 0 ? 'saving' : 'saved');
      kept();
    } catch (problem) {
      await notKept(problem);
    } finally {
      onItsWay = undefined;
    }
  }

  const send = async (): Promise<void> => {
    waiting += 1;
    await turn(sendNow).finally(() => (waiting -= 1));
  };

  /** What a window left behind goes on from what was read where nothing else was kept since. */
  async function withLeft(fresh: W): Promise<W> {
    const left = outbox.now();
    const newest = left.at(-1);
    if (!newest) return fresh;
    const follows = newest.version === fresh.version || left.some((one) => sameWork(one, fresh));
    if (!follows || sameWork(newest, fresh)) {
      outbox.put([]);
      if (!follows) saved.set({ refused: ELSEWHERE });
      return fresh;
    }
    const going = { ...newest, version: fresh.version };
    try {
      const stamp = await save(going);
      outbox.put([]);
      kept();
      return { ...going, version: stamp.version, changedAt: stamp.changedAt };
    } catch (problem) {
      saved.set({ refused: wordsOf(problem) });
      if (problem instanceof ServerGone) return going;
      outbox.put([]);
      return fresh;
    }
  }

  return {
    saved,
    isBusy: () => waiting > 0,
    read: async () => {
      const fresh = await read();
      return waiting > 0 && outbox.now().length > 0 ? (shown.now() ?? fresh) : withLeft(fresh);
    },
    change: async (to) => {
      const now = shown.now();
      if (!now) return undefined;
      saved.set('saving');
      const next = to(now);
      shown.show(next);
      outbox.put(onItsWay ? [onItsWay, next] : [next]);
      await send();
      const stands = saved.now();
      return typeof stands === 'object' ? stands.refused : undefined;
    },
    send,
    settled: () => turn(() => Promise.resolve()),
  };
}
