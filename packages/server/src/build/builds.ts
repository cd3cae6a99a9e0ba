import { randomUUID } from 'node:crypto';
import type { Facts } from '@jolly/core/machine/facts';
import type { Settings } from '@jolly/core/settings/setting';
import { check } from '@jolly/core/checks/checks';
import { stopping } from '@jolly/core/finding/stopping';
import { derive } from '@jolly/core/settings/derive';
import { readImage } from '@jolly/core/image/imageHeader';
import { write } from '@jolly/core/build/write';
import { ApiError } from '../api/apiError';
import { type Context, factsOr422, machineOr404 } from '../context';
import { loadKitSources } from '../files/catalogue';
import { type ByteStore, hashOf } from '../files/byteStore';
import {
  addBuild,
  type Build,
  type BuildSnapshot,
  endBuild,
  findBuild,
  interruptRunning,
  lastDone,
} from '../sql/builds';
import { addEntry } from '../sql/entries';
import { addImage } from '../sql/images';
import { buildImage, type BuildOutcome, type Progress } from './buildImage';
import { buildInput } from './buildInput';
import { Cancelled, type Compiler } from './compiler';

/** News of a running build: how far it is, or that it has ended. */
export type BuildNews = { kind: 'progress'; progress: Progress } | { kind: 'ended'; build: Build };

export interface Builds {
  start(machineId: string): Promise<Build>;
  cancel(buildId: string): Promise<void>;
  /** Tells what has happened so far, then what happens; the returned function ends it. */
  follow(buildId: string, listen: (news: BuildNews) => void): () => void;
  /** Marks builds that a former server left running; to be called once, before the first start. */
  recover(): Promise<void>;
  /** Ends what runs, marks it as interrupted, and takes nothing more: the server is about to end. */
  interrupt(): Promise<void>;
}

interface Running {
  abort: AbortController;
  heard: BuildNews[];
  listeners: Set<(news: BuildNews) => void>;
  finished: Promise<void>;
}

export function createBuilds(context: Context, compiler: Compiler, objects: ByteStore): Builds {
  const running = new Map<string, Running>();
  const { db } = context;
  let ending = false;

  async function start(machineId: string): Promise<Build> {
    if (ending) throw new ApiError(503, 'ending', 'the server is about to end');
    const { machine, version } = await machineOr404(context, machineId);
    const facts = factsOr422(context, machine);
    const settings = derive(facts);
    refuseStops(facts, settings);
    const id = randomUUID();
    const input = snapshot(facts, settings);
    await addBuild(db, { id, machine: machineId, version, at: context.now(), input });
    const entry: Running = {
      abort: new AbortController(),
      heard: [],
      listeners: new Set(),
      finished: Promise.resolve(),
    };
    running.set(id, entry);
    entry.finished = run(id, facts, settings, input, entry);
    return (await findBuild(db, id))!;
  }

  async function run(
    id: string,
    facts: Facts,
    settings: Settings,
    input: BuildSnapshot,
    entry: Running,
  ): Promise<void> {
    const say = (news: BuildNews) => {
      entry.heard.push(news);
      for (const listener of entry.listeners) listener(news);
    };
    try {
      const before = await lastDone(db, facts.machine.id);
      const sources = await loadKitSources(context.root, facts.kit.id);
      const outcome = await buildImage(buildInput(facts, settings, sources), {
        compiler,
        cache: objects,
        owner: facts.machine.id,
        signal: entry.abort.signal,
        progress: (progress) => say({ kind: 'progress', progress }),
      });
      await store(id, facts, outcome, before ? changedKeys(before.input, input) : []);
    } catch (error) {
      const cancelled = entry.abort.signal.aborted || error instanceof Cancelled;
      const why = error instanceof Error ? error.message : String(error);
      if (ending) await tellInterrupted(facts.machine.id, id);
      await endBuild(db, id, {
        state: ending ? 'interrupted' : cancelled ? 'cancelled' : 'failed',
        at: context.now(),
        log: cancelled ? '' : why,
        ...(!cancelled && { result: { failed: { file: '', line: 0, message: why } } }),
      });
    }
    say({ kind: 'ended', build: (await findBuild(db, id))! });
    running.delete(id);
  }

  async function store(id: string, facts: Facts, outcome: BuildOutcome, changed: string[]): Promise<void> {
    const { machine } = facts;
    if ('failed' in outcome) {
      await db.transaction(async (inside) => {
        await endBuild(inside, id, {
          state: 'failed',
          at: context.now(),
          log: outcome.log,
          result: { failed: outcome.failed },
        });
        await addEntry(inside, machine.id, {
          at: context.now(),
          kind: 'build',
          summary: `Build failed: ${outcome.failed.message}`,
          detail: { buildId: id },
        });
      });
      return;
    }
    const imageHash = hashOf(outcome.image);
    const read = readImage(outcome.image);
    if ('problem' in read) throw new Error(`the image just made cannot be read: ${read.problem}`);
    await context.images.put(imageHash, outcome.image);
    const { buildId, sizes, compiled } = outcome;
    await db.transaction(async (inside) => {
      await addImage(inside, { hash: imageHash, bytes: outcome.image.length, header: read.header });
      await endBuild(inside, id, {
        state: 'done',
        at: context.now(),
        log: outcome.log,
        result: { imageHash, buildId, sizes, compiled, changed },
      });
      await addEntry(inside, machine.id, {
        at: context.now(),
        kind: 'build',
        summary: `Built ${read.header.name}, build ${buildId}, ${sizes.flashBytes} bytes`,
        detail: { buildId: id, imageHash, changed },
      });
    });
  }

  const tellInterrupted = (machine: string, buildId: string) =>
    addEntry(db, machine, {
      at: context.now(),
      kind: 'build',
      summary: 'A build was interrupted when the program ended',
      detail: { buildId },
    });

  return {
    start,
    async cancel(buildId) {
      const entry = running.get(buildId);
      if (!entry) throw new ApiError(409, 'not-running', 'this build is not running any more');
      entry.abort.abort();
      await entry.finished;
    },
    follow(buildId, listen) {
      const entry = running.get(buildId);
      if (!entry) return () => undefined;
      entry.heard.forEach(listen);
      entry.listeners.add(listen);
      return () => entry.listeners.delete(listen);
    },
    async recover() {
      for (const { id, machine } of await interruptRunning(db, context.now()))
        await tellInterrupted(machine, id);
    },
    async interrupt() {
      ending = true;
      for (const { abort } of running.values()) abort.abort();
      await Promise.all([...running.values()].map((entry) => entry.finished));
    },
  };
}

/** Nothing is built over a finding that stops. */
function refuseStops(facts: Facts, settings: Settings): void {
  const stops = stopping(check(facts, settings));
  if (stops.length > 0)
    throw new ApiError(
      409,
      'stopped',
      `${stops.length === 1 ? 'one finding stops' : `${stops.length} findings stop`} this build: ${stops[0]!.what}`,
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

function changedKeys(before: BuildSnapshot, now: BuildSnapshot): string[] {
  const old = new Map(before.settings.map((setting) => [setting.key, setting.value]));
  return now.settings
    .filter((setting) => old.get(setting.key) !== setting.value)
    .map((setting) => setting.key);
}
