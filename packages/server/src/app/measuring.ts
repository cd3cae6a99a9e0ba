import type { CostRun } from '@jolly/contract/endpoints/costs';
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
import { backgroundRuns, type BackgroundRuns, type RunTools } from './backgroundRuns';
import { refuseStops } from './builds';
import { factsOf, theMachine } from './known';

export interface MeasuringRuns extends Pick<BackgroundRuns<CostRun>, 'follow' | 'isRunning' | 'interrupt'> {
  /** Begins a run, or answers the one that is under way. */
  start(machineId: string): Promise<CostRun>;
  cancel(machineId: string): Promise<CostRun>;
  /** Takes up again what a former server left; what it had built is not built again. */
  resume(): Promise<void>;
}

/** Measures what features take, in the background, one run for each machine. */
export function createMeasuring(context: Context, compiler: Compiler, objects: ByteStore): MeasuringRuns {
  const runs = backgroundRuns<CostRun>();
  let resuming: Promise<void> | undefined;

  async function measure(facts: Facts, { signal, progress }: RunTools): Promise<void> {
    const { id } = facts.machine;
    const sources = await loadKitSources(context.root, facts.kit.id);
    const build = async (given: Facts): Promise<Sized> => {
      signal.throwIfAborted();
      const outcome = await buildImage(buildInput(given, derive(given), sources), {
        compiler,
        cache: objects,
        owner: `costs of ${id}`,
        signal,
        progress: () => undefined,
      });
      return 'failed' in outcome ? { failed: outcome.failed.message } : outcome;
    };
    const costs = await measureCosts(facts, {
      catalogue: context.catalogue,
      build,
      progress: (doing, done, total) => progress({ doing, done, total }),
    });
    await endCosts(
      context.db,
      id,
      'failed' in costs
        ? { state: 'failed', at: context.now(), result: { because: costs.failed } }
        : { state: 'done', at: context.now(), result: { costs } },
    );
  }

  /** What the end of the server breaks off stays as running: the next one takes it up. */
  async function endBroken(id: string, error: unknown, stopped: boolean): Promise<void> {
    if (stopped && runs.isEnding()) return;
    const end = stopped ? { state: 'cancelled' as const } : { state: 'failed' as const, result: { because: whyOf(error) } }; // prettier-ignore
    await endCosts(context.db, id, { at: context.now(), ...end });
  }

  async function begin(machineId: string): Promise<void> {
    const facts = await transact(context, async (within) => {
      const { machine, version } = await theMachine(within, machineId);
      const known = factsOf(within, machine);
      refuseStops(known, derive(known));
      await beginCosts(within.db, machineId, version, within.now());
      return known;
    });
    runs.begin(machineId, async (tools) => {
      await measure(facts, tools).catch((error: unknown) =>
        endBroken(machineId, error, tools.signal.aborted || error instanceof Cancelled),
      );
      return theRun(context, machineId);
    });
  }

  async function takeUp(): Promise<void> {
    for (const id of await unfinishedCosts(context.db))
      if (!runs.isEnding()) await begin(id).catch((error: unknown) => endBroken(id, error, false));
  }

  return {
    isRunning: (machineId) => runs.isRunning(machineId),
    follow: (machineId, listen) => runs.follow(machineId, listen),
    async start(machineId) {
      if (!runs.isRunning(machineId)) await begin(machineId);
      return theRun(context, machineId);
    },
    async cancel(machineId) {
      await runs.cancel(machineId);
      return theRun(context, machineId);
    },
    async resume() {
      if (runs.isEnding()) return;
      resuming = takeUp();
      await resuming;
    },
    async interrupt() {
      const ended = runs.interrupt();
      await resuming;
      await ended;
    },
  };
}

async function theRun({ db }: Context, machineId: string): Promise<CostRun> {
  const run = await costRun(db, machineId);
  if (!run) throw new Error(`costs of ${machineId} were begun and are not there`);
  return run;
}
