import { boardCalled } from '@jolly/core/catalogue/catalogue';
import type { builds as buildsContract } from '@jolly/contract/endpoints/builds';
import type { costs as costsContract } from '@jolly/contract/endpoints/costs';
import { notFound } from '@jolly/contract/refusal';
import { baseOf } from '../app/base';
import { editedSources, putFresh } from '../files/kitSources';
import { buildPart, imageFile } from '../app/artefacts';
import type { BackgroundRuns } from '../app/backgroundRuns';
import type { FlashRuns } from '../app/flashRuns';
import type { CulpritRuns } from '../app/culprits';
import * as history from '../app/buildHistory';
import * as builds from '../app/builds';
import { theMachine } from '../app/known';
import type { MeasuringRuns } from '../app/measuring';
import type { Context } from '../context';
import { buildLog } from '../sql/builds';
import { costRun } from '../sql/costs';
import type { Of, Stream } from './handler';

/** What is built and measured in the background. */
export interface Work {
  builds: builds.Builds;
  measuring: MeasuringRuns;
  culprits: CulpritRuns;
  flashRuns: FlashRuns;
}

const OCTETS = 'application/octet-stream';
const FOR_EVER = 'private, max-age=31536000, immutable';

export function ofBuilds(
  context: Context,
  { builds: running, measuring, culprits }: Work,
): Of<typeof buildsContract & typeof costsContract> {
  return {
    ...ofCosts(context, measuring),
    sizes: ({ body }) => running.sizes(body),
    buildBase: async ({ params }) => {
      const base = await baseOf(context, params.id);
      return {
        name: base.name,
        board: boardCalled(context.catalogue, base.board),
        sizes: await running.sizes(base),
      };
    },
    editedSources: async ({ params }) => {
      refuseUnknownKit(context, params.id);
      return { edited: (await editedSources(context.root, params.id)) ?? null };
    },
    freshSources: async ({ params }) => {
      refuseUnknownKit(context, params.id);
      return { keptIn: await putFresh(context.root, context.data, params.id, context.now()) };
    },
    builds: ({ params }) => builds.builds(context, params.id),
    startBuild: ({ params }) => running.start(params.id),
    trial: async ({ body }) => ({ type: OCTETS, bytes: await running.trial(body) }),
    build: ({ params }) => builds.theBuild(context, params.id),
    buildLog: async ({ params }) => {
      const { id } = await builds.theBuild(context, params.id);
      return { log: await buildLog(context.db, id) };
    },
    buildInput: ({ params }) => builds.madeFrom(context, params.id),
    buildFile: ({ params }) => buildPart(context, params.id, params.part),
    markBuild: ({ params, body }) => history.mark(context, params.id, body),
    clearable: ({ params }) => history.clearable(context, params.id, Number(params.keep)),
    clearBuilds: ({ params, body }) => history.clear(context, params.id, body),
    findCulprit: ({ params }) => culprits.start(params.id),
    cancelCulprit: ({ params }) => culprits.cancel(params.id),
    culpritEvents: ({ params }) => newsOf(culprits, params.id, () => builds.theBuild(context, params.id)),
    cancelBuild: ({ params }) => running.cancel(params.id),
    buildEvents: ({ params }) => newsOf(running, params.id, () => builds.theBuild(context, params.id)),
    image: async ({ params }) => ({
      type: OCTETS,
      bytes: await builds.imageOf(context, params.hash),
      cache: FOR_EVER,
    }),
    imageFile: async ({ params }) => ({
      type: OCTETS,
      ...(await imageFile(context, params.hash, params.format)),
    }),
  };
}

/** A kit's id becomes part of a path only when it is one of the installed ones. */
function refuseUnknownKit({ catalogue }: Context, id: string): void {
  if (!catalogue.kits.some((kit) => kit.id === id)) throw notFound('kit', id);
}

function ofCosts(
  context: Context,
  measuring: MeasuringRuns,
): Pick<Of<typeof costsContract>, 'costs' | 'measureCosts' | 'cancelCosts' | 'costEvents'> {
  return {
    costs: async ({ params }) => {
      await theMachine(context, params.id);
      return { run: (await costRun(context.db, params.id)) ?? null };
    },
    measureCosts: ({ params }) => measuring.start(params.id),
    cancelCosts: ({ params }) => measuring.cancel(params.id),
    costEvents: ({ params }) =>
      newsOf(measuring, params.id, async () => (await costRun(context.db, params.id)) ?? null),
  };
}

/** News of a run in the background, to its end; of one that is over, only how it stands. @throws what `stands` throws */
export async function newsOf<End extends { state: string } | null>(
  runs: Pick<BackgroundRuns<NonNullable<End>>, 'follow' | 'isRunning'>,
  key: string,
  stands: () => Promise<End>,
): Promise<Stream> {
  const before = await stands();
  return (send, end) => {
    let open = true;
    const over = (state: End) => {
      if (open) send('ended', state);
      open = false;
      end();
    };
    const leave = runs.follow(key, (news) =>
      news.kind === 'progress' ? send('progress', news.progress) : over(news.end),
    );
    // It may have ended since it was looked up; then it stands otherwise now. One that waits to be taken up goes on.
    if (!runs.isRunning(key))
      void (before?.state === 'running' ? stands() : Promise.resolve(before)).then((now) => now?.state !== 'running' && over(now)); // prettier-ignore
    return leave;
  };
}
