import type { CostRun } from '@jolly/contract/endpoints/costs';
import { Refusal } from '@jolly/contract/refusal';
import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { whyOf } from '@jolly/core/text/whyOf';
import { buildImage } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import { Cancelled, type Compiler } from '../build/compiler';
import { measureCosts, type Sized } from '../build/measureCosts';
import { type Context, transact } from '../context';
import type { ByteStore } from '../files/byteStore';
import { loadKitSources } from '../files/catalogue';
import { beginCosts, costRun, endCosts, unfinishedCosts } from '../sql/costs';
import { refuseStops } from './builds';
import { factsOf, theMachine } from './known';

/** How far a measuring is. */
export interface MeasuringProgress {
  done: number;
  total: number;
  doing: string;
}
export type MeasuringNews =
  { kind: 'progress'; progress: MeasuringProgress } | { kind: 'ended'; run: CostRun };

export interface MeasuringRuns {
  /** Begins a run, or answers the one that is under way. */
  start(machineId: string): Promise<CostRun>;
  cancel(machineId: string): Promise<CostRun>;
  /** Tells the newest progress, then what happens; the returned function ends it. */
  follow(machineId: string, listen: (news: MeasuringNews) => void): () => void;
  /** Takes up again what a former server left; what it had built is not built again. */
  resume(): Promise<void>;
  /** Lets go of what runs, so that the next server takes it up: the server is about to end. */
  interrupt(): Promise<void>;
}

interface Running {
  abort: AbortController;
  newest?: MeasuringNews;
  listeners: Set<(news: MeasuringNews) => void>;
  finished: Promise<void>;
}

/** Measures what features take, in the background, one run for each machine. */
export function createMeasuring(context: Context, compiler: Compiler, objects: ByteStore): MeasuringRuns {
  const running = new Map<string, Running>();
  let ending = false;
  let resuming: Promise<void> | undefined;

  async function measure(facts: Facts, entry: Running, say: (news: MeasuringNews) => void): Promise<void> {
    const { id } = facts.machine;
    const sources = await loadKitSources(context.root, facts.kit.id);
    const build = async (given: Facts): Promise<Sized> => {
      entry.abort.signal.throwIfAborted();
      const outcome = await buildImage(buildInput(given, derive(given), sources), {
        compiler,
        cache: objects,
        owner: `costs of ${id}`,
        signal: entry.abort.signal,
        progress: () => undefined,
      });
      return 'failed' in outcome ? { failed: outcome.failed.message } : { sizes: outcome.sizes };
    };
    const progress = (doing: string, done: number, total: number) =>
      say({ kind: 'progress', progress: { doing, done, total } });
    const costs = await measureCosts(facts, { catalogue: context.catalogue, build, progress });
    await endCosts(
      context.db,
      id,
      'failed' in costs
        ? { state: 'failed', at: context.now(), result: { because: costs.failed } }
        : { state: 'done', at: context.now(), result: { costs } },
    );
  }

  async function run(facts: Facts, entry: Running): Promise<void> {
    const { id } = facts.machine;
    const say = (news: MeasuringNews) => {
      entry.newest = news;
      for (const listener of entry.listeners) listener(news);
    };
    try {
      await measure(facts, entry, say);
    } catch (error) {
      const stopped = entry.abort.signal.aborted || error instanceof Cancelled;
      // What the end of the server breaks off stays as running: the next one takes it up.
      if (!(stopped && ending))
        await endCosts(context.db, id, {
          state: stopped ? 'cancelled' : 'failed',
          at: context.now(),
          ...(!stopped && { result: { because: whyOf(error) } }),
        });
    }
    running.delete(id);
    say({ kind: 'ended', run: await theRun(context, id) });
  }

  async function begin(machineId: string): Promise<void> {
    const facts = await transact(context, async (within) => {
      const { machine, version } = await theMachine(within, machineId);
      const known = factsOf(within, machine);
      refuseStops(known, derive(known));
      await beginCosts(within.db, machineId, version, within.now());
      return known;
    });
    const entry: Running = {
      abort: new AbortController(),
      listeners: new Set(),
      finished: Promise.resolve(),
    };
    running.set(machineId, entry);
    entry.finished = run(facts, entry);
  }

  return {
    async start(machineId) {
      if (ending) throw new Refusal('ending', 'the server is about to end');
      if (!running.has(machineId)) await begin(machineId);
      return theRun(context, machineId);
    },
    async cancel(machineId) {
      const entry = running.get(machineId);
      if (!entry) throw new Refusal('not-running', 'nothing is being measured any more');
      entry.abort.abort();
      await entry.finished;
      return theRun(context, machineId);
    },
    follow(machineId, listen) {
      const entry = running.get(machineId);
      if (!entry) return () => undefined;
      if (entry.newest) listen(entry.newest);
      entry.listeners.add(listen);
      return () => entry.listeners.delete(listen);
    },
    async resume() {
      if (ending) return;
      resuming = takeUp();
      await resuming;
    },
    async interrupt() {
      ending = true;
      await resuming;
      for (const { abort } of running.values()) abort.abort();
      await Promise.all([...running.values()].map((entry) => entry.finished));
    },
  };

  async function takeUp(): Promise<void> {
    for (const id of await unfinishedCosts(context.db))
      if (!ending)
        await begin(id).catch((error: unknown) =>
          endCosts(context.db, id, { state: 'failed', at: context.now(), result: { because: whyOf(error) } }),
        );
  }
}

async function theRun({ db }: Context, machineId: string): Promise<CostRun> {
  const run = await costRun(db, machineId);
  if (!run) throw new Error(`costs of ${machineId} were begun and are not there`);
  return run;
}
