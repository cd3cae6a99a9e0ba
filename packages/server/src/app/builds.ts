import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { isFilled } from '@jolly/core/tree/filled';
import { randomUUID } from 'node:crypto';
import type { Facts } from '@jolly/core/machine/facts';
import type { Settings } from '@jolly/core/settings/setting';
import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import { fitFindings } from '@jolly/core/build/fitFindings';
import type { Sizes } from '@jolly/core/build/sizes';
import type { Machine } from '@jolly/core/machine/machine';
import { differingKeys } from '@jolly/core/fit/culprit';
import { derive } from '@jolly/core/settings/derive';
import { readImage } from '@jolly/core/image/imageHeader';
import { write } from '@jolly/core/build/write';
import type { Build, BuildInput as BuildSnapshot } from '@jolly/contract/endpoints/builds';
import { MOST_BUILDS } from '@jolly/contract/endpoints/builds';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { buildImage, type BuildOutcome } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import { Cancelled, type Compiler } from '../build/compiler';
import { type Context, transact, type Within } from '../context';
import { loadKitSources } from '../files/catalogue';
import { type ByteStore, hashOf } from '../files/byteStore';
import {
  addBuild,
  buildInputOf,
  endBuild,
  findBuild,
  goodBefore,
  interruptRunning,
  lastDone,
  listBuilds,
} from '../sql/builds';
import { addEntry } from '../sql/entries';
import { addImage, findImage } from '../sql/images';
import type { Queries } from '../sql/db';
import { backgroundRuns, type BackgroundRuns, type RunTools } from './backgroundRuns';
import { imageBytes } from './board';
import { factsOf, theMachine } from './known';

export interface Builds extends Pick<BackgroundRuns<Build>, 'follow' | 'isRunning' | 'interrupt'> {
  start(machineId: string): Promise<Build>;
  /** Ends a running build; answers it as it ended. */
  cancel(buildId: string): Promise<Build>;
  /** Builds a machine to be tried on the bench, whatever its findings say. The newest trial of a machine ends the one before. */
  trial(machine: Machine): Promise<Uint8Array>;
  /** What the image of a machine takes, whether it fits or not; built like a trial. */
  sizes(machine: Machine): Promise<Sizes>;
  /** Marks builds that a former server left running; to be called once, before the first start. */
  recover(): Promise<void>;
}

/** A build that is begun: what it is made from, and what it is stored under. */
interface Begun {
  id: string;
  facts: Facts;
  settings: Settings;
  input: BuildSnapshot;
}

/** Runs builds beside each other and tells whoever follows them. */
export function createBuilds(context: Context, compiler: Compiler, objects: ByteStore): Builds {
  const runs = backgroundRuns<Build>();
  const trials = new Map<string, AbortController>();

  async function run(begun: Begun, { signal, progress }: RunTools): Promise<Build> {
    try {
      const sources = await loadKitSources(context.root, begun.facts.kit.id);
      const outcome = await buildImage(buildInput(begun.facts, begun.settings, sources), {
        compiler,
        cache: objects,
        owner: begun.facts.machine.id,
        signal,
        progress,
      });
      await store(context, begun, outcome);
    } catch (error) {
      const cancelled = signal.aborted || error instanceof Cancelled;
      await storeBroken(context, begun, runs.isEnding() ? 'interrupted' : cancelled ? 'cancelled' : 'failed', error); // prettier-ignore
    }
    return theBuild(context, begun.id);
  }

  function tryOut(facts: Facts): Promise<Tried> {
    if (runs.isEnding()) throw new Refusal('ending', 'the server is about to end');
    const { id } = facts.machine;
    const abort = new AbortController();
    trials.get(id)?.abort();
    trials.set(id, abort);
    return buildTrial(context, facts, { compiler, objects, signal: abort.signal }).finally(() => {
      if (trials.get(id) === abort) trials.delete(id);
    });
  }

  return {
    isRunning: (buildId) => runs.isRunning(buildId),
    follow: (buildId, listen) => runs.follow(buildId, listen),
    async start(machineId) {
      if (runs.isEnding()) throw new Refusal('ending', 'the server is about to end');
      const begun = await begin(context, machineId);
      runs.begin(begun.id, (tools) => run(begun, tools));
      return theBuild(context, begun.id);
    },
    async cancel(buildId) {
      await theBuild(context, buildId);
      await runs.cancel(buildId);
      return theBuild(context, buildId);
    },
    async trial(machine) {
      const facts = factsOf(context, machine);
      const { image, sizes } = await tryOut(facts);
      const over = stopping(fitFindings(sizes, facts.chip));
      if (isFilled(over)) throw new Refusal('not-built', over[0].what, { findings: over });
      return image;
    },
    sizes: async (machine) => (await tryOut(factsOf(context, machine))).sizes,
    recover: () =>
      transact(context, async ({ db, now }) => {
        for (const { id, machine } of await interruptRunning(db, now()))
          await tellInterrupted(db, machine, id, now());
      }),
    async interrupt() {
      const ended = runs.interrupt();
      for (const abort of trials.values()) abort.abort();
      await ended;
    },
  };
}

/** One build. @throws {Refusal} not-found */
export async function theBuild({ db }: Within, id: string): Promise<Build> {
  const build = await findBuild(db, id);
  if (!build) throw notFound('build', id);
  return build;
}

/** Builds of a machine, newest first. */
export async function builds(context: Within, machineId: string): Promise<Build[]> {
  await theMachine(context, machineId);
  return listBuilds(context.db, machineId, MOST_BUILDS);
}

/** What a build was made from. */
export async function madeFrom({ db }: Within, id: string): Promise<BuildSnapshot> {
  const input = await buildInputOf(db, id);
  if (!input) throw notFound('build', id);
  return input;
}

/** The bytes of an image. The store holds other things too; what is no image is not given away by its hash. */
export async function imageOf(context: Within, hash: string): Promise<Uint8Array> {
  if (!(await findImage(context.db, hash))) throw notFound('image', hash);
  return imageBytes(context, hash);
}

type Tried = Extract<BuildOutcome, { image: unknown }>;

/** An image that is only tried. @throws {Refusal} not-built, with what the compiler says; busy, where it was broken off */
async function buildTrial(
  context: Context,
  facts: Facts,
  tools: { compiler: Compiler; objects: ByteStore; signal: AbortSignal },
): Promise<Tried> {
  const sources = await loadKitSources(context.root, facts.kit.id);
  const outcome = await buildImage(buildInput(facts, derive(facts), sources), {
    compiler: tools.compiler,
    cache: tools.objects,
    owner: `trial of ${facts.machine.id}`,
    signal: tools.signal,
    progress: () => undefined,
  }).catch((error: unknown) => {
    if (error instanceof Cancelled || tools.signal.aborted)
      throw new Refusal(
        'busy',
        'it was broken off, because another trial of this machine was begun or the program ends',
      );
    throw error;
  });
  if ('failed' in outcome) throw new Refusal('not-built', outcome.failed.message);
  return outcome;
}

/** Writes down that a machine is built, from the machine as it is stored. */
function begin(context: Context, machineId: string): Promise<Begun> {
  return transact(context, async (within) => {
    const { machine, version } = await theMachine(within, machineId);
    const facts = factsOf(within, machine);
    const settings = derive(facts);
    refuseStops(facts, settings);
    const id = randomUUID();
    const input = snapshot(facts, settings);
    await addBuild(within.db, { id, machine: machineId, version, at: context.now(), input });
    return { id, facts, settings, input };
  });
}

/** Keeps what a build came to, and writes it into the logbook. */
async function store(context: Context, begun: Begun, outcome: BuildOutcome): Promise<void> {
  if ('failed' in outcome) return storeFailed(context, begun, outcome);
  const imageHash = hashOf(outcome.image);
  const read = readImage(outcome.image);
  if ('problem' in read) throw new Error(`the image just made cannot be read: ${read.problem}`);
  await context.images.put(imageHash, outcome.image);
  const { buildId, sizes, compiled, log, map } = outcome;
  await transact(context, async ({ db, now }) => {
    const before = await lastDone(db, begun.facts.machine.id);
    const changed = before ? differingKeys(before.input.settings, begun.settings) : [];
    await addImage(db, { hash: imageHash, bytes: outcome.image.length, header: read.header });
    const result = { imageHash, buildId, target: read.header.target, sizes, compiled, changed };
    await endBuild(db, begun.id, { state: 'done', at: now(), log, map, result });
    await addEntry(db, begun.facts.machine.id, {
      at: now(),
      kind: 'build',
      summary: `Built ${read.header.name}, build ${buildId}, ${bytesInWords(sizes.flashBytes)}`,
      detail: { buildId: begun.id, imageHash, changed },
    });
  });
}

const storeFailed = (
  context: Context,
  { id, facts, settings }: Begun,
  { failed, log }: Extract<BuildOutcome, { failed: unknown }>,
): Promise<void> =>
  transact(context, async ({ db, now }) => {
    const good = await goodBefore(db, id);
    const result = { failed, ...(good && { changed: differingKeys(good.settings, settings) }) };
    await endBuild(db, id, { state: 'failed', at: now(), log, result });
    await addEntry(db, facts.machine.id, {
      at: now(),
      kind: 'build',
      summary: `Build failed: ${failed.message}`,
      detail: { buildId: id },
    });
  });

/** Keeps that a build did not come to its end. */
const storeBroken = (
  context: Context,
  { id, facts }: Begun,
  state: 'interrupted' | 'cancelled' | 'failed',
  error: unknown,
): Promise<void> =>
  transact(context, async ({ db, now }) => {
    const why = state === 'failed' ? (error instanceof Error ? error.message : String(error)) : '';
    if (state === 'interrupted') await tellInterrupted(db, facts.machine.id, id, now());
    const result = state === 'failed' && { result: { failed: { file: '', line: 0, message: why } } };
    await endBuild(db, id, { state, at: now(), log: why, ...result });
  });

const tellInterrupted = (db: Queries, machine: string, buildId: string, at: Date): Promise<void> =>
  addEntry(db, machine, {
    at,
    kind: 'build',
    summary: 'A build was interrupted when the program ended',
    detail: { buildId },
  });

/** Nothing is built over a finding that stops. */
export function refuseStops(facts: Facts, settings: Settings): void {
  const stops = stopping(check(facts, settings));
  if (isFilled(stops))
    throw new Refusal(
      'stopped',
      `${stops.length === 1 ? 'one finding stops' : `${stops.length} findings stop`} this build: ${stops[0].what}`,
      { findings: stops },
    );
}

function snapshot(facts: Facts, settings: Settings): BuildSnapshot {
  return {
    machine: facts.machine,
    settings: [...settings.values()].map(({ key, value, source }) => ({ key, value, source })),
    files: write(facts, settings),
  };
}
