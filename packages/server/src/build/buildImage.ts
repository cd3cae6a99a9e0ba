import { guardLosses } from '@jolly/core/build/imageGuards';
import { makeImage } from '@jolly/core/image/imageHeader';
import type { GeneratedFile } from '@jolly/core/build/generatedFile';
import { type Diagnostic, firstError } from '@jolly/core/build/diagnostic';
import { type Sizes, sizesOf } from '@jolly/core/build/sizes';
import { sourceOfNames } from '@jolly/core/build/sourceOfNames';
import type { Compiler, Turn } from './compiler';
import { certain } from '@jolly/core/tree/certain';
import { isFilled } from '@jolly/core/tree/filled';
import { type ByteStore, hashOf } from '../files/byteStore';
import type { BuildInput } from './buildInput';
import { COMPILER, type Effort, linkArguments } from './recipe';
import { type Unit, unitsOf } from './units';

export type Progress = { done: number; total: number; doing: string; log?: string };
export type BuildOutcome =
  | {
      image: Uint8Array;
      buildId: string;
      sizes: Sizes;
      map: string;
      log: string;
      compiled: number;
      /** What linking took when these objects were linked, in ms. */
      linkMs: number;
    }
  | { failed: Diagnostic; log: string };

interface Tools {
  compiler: Compiler;
  cache: ByteStore;
  /** Whose build it is: one owner's builds never hold up another's. */
  owner: string;
  signal: AbortSignal;
  progress: (progress: Progress) => void;
}

/** Compiles what changed, links, and puts the header in front. The same input gives the same bytes. */
export async function buildImage(input: BuildInput, tools: Tools): Promise<BuildOutcome> {
  const units = unitsOf(input);
  const log: string[] = [];
  const total = units.length + 1;
  const tell: Tell = (done, doing, text = '') => {
    if (text) log.push(text);
    tools.progress({ done, total, doing, ...(text && { log: text }) });
  };
  const linkKey = linkKeyOf(units, input);
  let compiled = 0;
  let linked: Linked | undefined = await linkedBefore(linkKey, tools.cache);
  if (!linked) {
    const made = await compileUnits(units, input, tools, tell);
    if ('failed' in made) return failure(made.log, log, input.generated);
    compiled = made.compiled;
    linked = await link(linkKey, Object.fromEntries(made.objects), input, tools);
  }
  tools.signal.throwIfAborted();
  if ('failed' in linked) return failure(linked.log, [...log, linked.log], input.generated);
  const [lost] = guardLosses(input.promised, linked.map, linked.told);
  if (lost)
    return {
      failed: { file: '', line: 0, message: lost.message, ...(lost.key && { key: lost.key }) },
      log: [...log, `error: the linked image does not guard as the settings promise: ${lost.message}`].join(
        '\n',
      ),
    };
  tell(
    total,
    'image',
    `linked ${units.length} objects, ${compiled} of them compiled now, ${units.length - compiled} kept from before`,
  );

  const buildId = hashOf(
    linkKey,
    input.kitVersion,
    input.target,
    String(input.loadAddress),
    input.name,
  ).slice(0, 8);
  const image = makeImage(
    {
      kitVersion: input.kitVersion,
      target: input.target,
      loadAddress: input.loadAddress,
      buildId,
      name: input.name,
    },
    linked.code,
  );
  return {
    image,
    buildId,
    sizes: sizesOf(linked.map, linked.code.length, input.stackBytes, sourceOfNames(input.sources)),
    map: linked.map,
    log: log.join('\n'),
    compiled,
    linkMs: linked.tookMs,
  };
}

type Tell = (done: number, doing: string, text?: string) => void;
/**
 * So many sources are compiled in one go: starting the compiler takes several times as long as compiling a source, and
 * between two goes a build tells how far it is and can be cancelled. What is compiled across sources is not the same
 * to the byte beside others as by itself, and a build must be the same however much of it was kept from before.
 */
export const TOGETHER: Readonly<Record<Effort, number>> = {
  'by-source': 8,
  checked: 8,
  'across-sources': 1,
};

type Compiled =
  { objects: [name: string, bytes: Uint8Array][]; compiled: number } | { failed: true; log: string };

/** The objects of all units, those that are kept from before and those compiled now. */
async function compileUnits(
  units: readonly Unit[],
  { effort }: BuildInput,
  tools: Tools,
  tell: Tell,
): Promise<Compiled> {
  const objects = new Map<Unit, Uint8Array>();
  for (const unit of units) {
    const kept = await tools.cache.get(unit.key);
    if (!kept) continue;
    objects.set(unit, kept);
    tell(objects.size, unit.source);
  }
  const missing = () => units.filter((unit) => !objects.has(unit));
  // Stored while the next sources compile; all are on disk before the build ends.
  const stored: Promise<void>[] = [];
  const keep = (unit: Unit, bytes: Uint8Array) => {
    objects.set(unit, bytes);
    const storing = tools.cache.put(unit.key, bytes);
    // A failed store is reported where all are awaited; until then it is nobody's surprise.
    storing.catch(() => undefined);
    stored.push(storing);
  };
  let together = TOGETHER[effort];
  for (let left = missing(); isFilled(left); left = missing()) {
    tools.signal.throwIfAborted();
    const done = units.length - left.length;
    tell(done, left[0].source);
    const batch = left.slice(0, together);
    const { log, objects: made, failed } = await tools.compiler.compile(compileTask(batch, effort), tools);
    for (const [nth, unit] of batch.entries()) {
      const bytes = made[unit.object];
      if (bytes) keep(unit, bytes);
      if (bytes || together === 1) tell(done + nth + 1, unit.source, `compiled ${unit.source}\n${log}`);
    }
    if (failed && together === 1) return { failed, log };
    // Which of them fails, and why, is told of one by itself.
    if (failed) together = 1;
  }
  await Promise.all(stored);
  // They are linked in the order of the units, whichever came first.
  return {
    objects: units.map((unit) => [unit.object, certain(objects.get(unit), 'an object that was made')]),
    compiled: stored.length,
  };
}

/** Units that are compiled in one go. */
export const compileTask = (units: readonly Unit[], effort: Effort) => ({
  sources: units.map(({ source }) => source),
  files: Object.assign({}, ...units.map(({ files }) => files)) as Record<string, string>, // they are that
  effort,
});

const linkKeyOf = (units: readonly Unit[], { stackBytes, effort, promised }: BuildInput): string =>
  hashOf(
    'link',
    COMPILER,
    linkArguments(
      units.map(({ object }) => object),
      stackBytes,
      effort,
    ).join(' '),
    promised.told.map(({ key }) => key).join(' '),
    ...units.map(({ key }) => key),
  );

type Linked =
  { code: Uint8Array; map: string; told: number[]; tookMs: number } | { failed: true; log: string };

const PIECES = ['code', 'map', 'told', 'took'] as const;
const pieceOf = (key: string, name: (typeof PIECES)[number]) => hashOf(key, name);

/** What the same objects were linked to before. */
async function linkedBefore(key: string, cache: ByteStore): Promise<Linked | undefined> {
  const [code, map, told, took] = await Promise.all(PIECES.map((name) => cache.get(pieceOf(key, name))));
  if (!code || !map || !told || !took) return undefined;
  return { code, map: new TextDecoder().decode(map), told: numbersIn(told), tookMs: numbersIn(took)[0] ?? 0 };
}

const numbersIn = (bytes: Uint8Array): number[] => [...new Float64Array(bytes.slice().buffer)];
const bytesOf = (numbers: readonly number[]) => new Uint8Array(Float64Array.from(numbers).buffer);

async function link(
  key: string,
  objects: Record<string, Uint8Array>,
  { stackBytes, promised, effort }: BuildInput,
  { compiler, cache, ...turn }: Turn & { compiler: Compiler; cache: ByteStore },
): Promise<Linked> {
  const from = performance.now();
  const answer = await compiler.link({ objects, stackBytes, effort, asked: promised.told.length }, turn);
  if ('failed' in answer) return answer;
  const tookMs = performance.now() - from;
  await cache.put(pieceOf(key, 'told'), bytesOf(answer.told));
  await cache.put(pieceOf(key, 'took'), bytesOf([tookMs]));
  await cache.put(pieceOf(key, 'map'), new TextEncoder().encode(answer.map));
  await cache.put(pieceOf(key, 'code'), answer.code);
  return { ...answer, tookMs };
}

function failure(toolLog: string, log: string[], generated: GeneratedFile[]): BuildOutcome {
  const failed = firstError(toolLog, generated) ?? {
    file: '',
    line: 0,
    message: 'the compiler failed without saying why; see the log',
  };
  return { failed, log: log.join('\n') };
}
