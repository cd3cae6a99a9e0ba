import type { Build, BuildInput } from '@jolly/contract/endpoints/builds';
import { Refusal } from '@jolly/contract/refusal';
import type { Diagnostic } from '@jolly/core/build/diagnostic';
import { differingKeys, settingsWith } from '@jolly/core/fit/culprit';
import type { Facts } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import type { Settings } from '@jolly/core/settings/setting';
import { smallestFailing } from '@jolly/core/solver/smallestFailing';
import { buildImage } from '../build/buildImage';
import { buildInput } from '../build/buildInput';
import type { Compiler } from '../build/compiler';
import type { Context } from '../context';
import type { ByteStore } from '../files/byteStore';
import { loadKitSources } from '../files/catalogue';
import { buildInputOf, goodBefore, putCulprit } from '../sql/builds';
import { backgroundRuns, type BackgroundRuns, type RunTools } from './backgroundRuns';
import { theBuild } from './builds';
import { factsOf } from './known';

export interface CulpritRuns extends Pick<BackgroundRuns<Build>, 'follow' | 'interrupt' | 'isRunning'> {
  /** Begins to look for what breaks a build, or goes on with it. @throws {Refusal} not-so */
  start(buildId: string): Promise<Build>;
  cancel(buildId: string): Promise<Build>;
}

/** A build that failed, and what it is held against. */
interface Broken {
  failed: Diagnostic;
  facts: Facts;
  settings: Settings;
  good: BuildInput;
  keys: readonly string[];
}

/** Finds the smallest change that breaks a build, in the background, by building with parts of what changed. */
export function createCulprits(context: Context, compiler: Compiler, objects: ByteStore): CulpritRuns {
  const runs = backgroundRuns<Build>();

  async function search(buildId: string, broken: Broken, tools: RunTools): Promise<void> {
    const sources = await loadKitSources(context.root, broken.facts.kit.id);
    let builds = 0;
    const fails = async (keys: readonly string[]): Promise<boolean> => {
      tools.signal.throwIfAborted();
      // How often it must try is not known beforehand; the bar goes on, and never to its end.
      tools.progress({
        doing:
          keys.length === 0
            ? 'with every setting as it was'
            : `with ${keys.length} of ${broken.keys.length} changes`,
        done: builds,
        total: builds + 4,
      });
      builds += 1;
      const settings = settingsWith(broken.good.settings, broken.settings, keys);
      const outcome = await buildImage(buildInput(broken.facts, settings, sources), {
        compiler,
        cache: objects,
        owner: `culprit of ${buildId}`,
        signal: tools.signal,
        progress: () => undefined,
      });
      return 'failed' in outcome && outcome.failed.message === broken.failed.message;
    };
    const culprit = await culpritOf(broken.keys, fails);
    await putCulprit(context.db, buildId, { ...culprit, builds });
  }

  return {
    isRunning: (buildId) => runs.isRunning(buildId),
    follow: (buildId, listen) => runs.follow(buildId, listen),
    interrupt: () => runs.interrupt(),
    async start(buildId) {
      const broken = await brokenBuild(context, buildId);
      if (!runs.isRunning(buildId))
        runs.begin(buildId, async (tools) => {
          await search(buildId, broken, tools).catch((error: unknown) => {
            if (!tools.signal.aborted) console.error(error);
          });
          return theBuild(context, buildId);
        });
      return theBuild(context, buildId);
    },
    async cancel(buildId) {
      await runs.cancel(buildId);
      return theBuild(context, buildId);
    },
  };
}

async function culpritOf(
  keys: readonly string[],
  fails: (keys: readonly string[]) => Promise<boolean>,
): Promise<{ keys: string[] } | { machine: true }> {
  if (await fails([])) return { machine: true };
  const search = smallestFailing(keys);
  let next = search.next();
  while (!next.done) next = search.next(await fails(next.value));
  return { keys: [...next.value] };
}

async function brokenBuild(context: Context, buildId: string): Promise<Broken> {
  const build = await theBuild(context, buildId);
  if (build.state !== 'failed') throw new Refusal('not-so', 'this build did not fail');
  const [input, good] = [await buildInputOf(context.db, buildId), await goodBefore(context.db, buildId)];
  if (!input || !good)
    throw new Refusal('not-so', 'nothing of this machine was built well before; there is nothing to hold it against'); // prettier-ignore
  const facts = factsOf(context, input.machine);
  const settings = derive(facts);
  return { failed: build.failed, facts, settings, good, keys: differingKeys(good.settings, settings) };
}
