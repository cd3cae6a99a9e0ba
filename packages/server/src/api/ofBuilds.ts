import type { builds as buildsContract } from '@jolly/contract/endpoints/builds';
import type { costs as costsContract } from '@jolly/contract/endpoints/costs';
import { buildPart, imageFile } from '../app/artefacts';
import * as history from '../app/buildHistory';
import * as builds from '../app/builds';
import { theMachine } from '../app/known';
import type { MeasuringRuns } from '../app/measuring';
import type { Context } from '../context';
import { buildLog } from '../sql/builds';
import { costRun } from '../sql/costs';
import type { Of } from './handlers';

/** What is built and measured in the background. */
export interface Work {
  builds: builds.Builds;
  measuring: MeasuringRuns;
}

const OCTETS = 'application/octet-stream';
const FOR_EVER = 'private, max-age=31536000, immutable';

export function ofBuilds(
  context: Context,
  { builds: running, measuring }: Work,
): Of<typeof buildsContract & typeof costsContract> {
  return {
    ...ofCosts(context, measuring),
    sizes: ({ body }) => running.sizes(body),
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
    cancelBuild: ({ params }) => running.cancel(params.id),
    buildEvents: async ({ params }) => {
      const build = await builds.theBuild(context, params.id);
      return (send, end) => {
        if (build.state === 'running')
          return running.follow(build.id, (news) => {
            if (news.kind === 'progress') return send('progress', news.progress);
            send('ended', news.build);
            end();
          });
        send('ended', build);
        end();
        return () => undefined;
      };
    },
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

function ofCosts(context: Context, measuring: MeasuringRuns): Omit<Of<typeof costsContract>, 'sizes'> {
  return {
    costs: async ({ params }) => {
      await theMachine(context, params.id);
      return { run: (await costRun(context.db, params.id)) ?? null };
    },
    measureCosts: ({ params }) => measuring.start(params.id),
    cancelCosts: ({ params }) => measuring.cancel(params.id),
    costEvents: async ({ params }) => {
      const run = await costRun(context.db, params.id);
      return (send, end) => {
        if (run?.state === 'running')
          return measuring.follow(params.id, (news) => {
            if (news.kind === 'progress') return send('progress', news.progress);
            send('ended', news.run);
            end();
          });
        send('ended', run ?? null);
        end();
        return () => undefined;
      };
    },
  };
}
