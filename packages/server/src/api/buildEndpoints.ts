import type { Response } from 'express';
import type { Builds } from '../build/builds';
import { type Context, machineOr404 } from '../context';
import { buildInputOf, buildLog, findBuild, listBuilds } from '../sql/builds';
import { findImage } from '../sql/images';
import { imageBytes } from '../board/virtualBoard';
import { notFound } from './apiError';
import type { Endpoint } from './endpoint';
import { hashParams, idParams } from './params';

/** How many builds are listed at most. */
const BUILDS = 100;

export function buildEndpoints(context: Context, builds: Builds): Endpoint[] {
  const { db } = context;
  const buildOr404 = async (id: string) => (await findBuild(db, id)) ?? Promise.reject(notFound('build', id));
  return [
    {
      method: 'get',
      path: '/machines/{id}/builds',
      summary: 'Builds of a machine, newest first',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listBuilds(db, params['id']!, BUILDS);
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/builds',
      summary: 'Start a build from the machine as it is stored',
      params: idParams,
      run: ({ params }) => builds.start(params['id']!),
    },
    {
      method: 'get',
      path: '/builds/{id}',
      summary: 'One build',
      params: idParams,
      run: ({ params }) => buildOr404(params['id']!),
    },
    {
      method: 'get',
      path: '/builds/{id}/log',
      summary: 'What the compiler said',
      params: idParams,
      run: async ({ params }) => {
        await buildOr404(params['id']!);
        return { log: await buildLog(db, params['id']!) };
      },
    },
    {
      method: 'get',
      path: '/builds/{id}/input',
      summary: 'What a build was made from: machine, settings and generated files',
      params: idParams,
      run: async ({ params }) =>
        (await buildInputOf(db, params['id']!)) ?? Promise.reject(notFound('build', params['id']!)),
    },
    {
      method: 'post',
      path: '/builds/{id}/cancel',
      summary: 'Cancel a running build',
      params: idParams,
      run: async ({ params }) => {
        await buildOr404(params['id']!);
        await builds.cancel(params['id']!);
        return buildOr404(params['id']!);
      },
    },
    {
      method: 'get',
      path: '/builds/{id}/events',
      summary: 'Progress of a build as server-sent events: `progress`, then `ended`',
      params: idParams,
      raw: true,
      run: async ({ params, reply }) => {
        const build = await buildOr404(params['id']!);
        const send = openStream(reply);
        if (build.state !== 'running') {
          send('ended', build);
          return reply.end();
        }
        const leave = builds.follow(build.id, (news) => {
          if (news.kind === 'progress') send('progress', news.progress);
          else {
            send('ended', news.build);
            reply.end();
          }
        });
        reply.on('close', leave);
      },
    },
    {
      method: 'get',
      path: '/images/{hash}',
      summary: 'The bytes of an image',
      params: hashParams,
      raw: true,
      run: async ({ params, reply }) => {
        // The store holds other things too; what is no image is not given away by its hash.
        if (!(await findImage(db, params['hash']!))) throw notFound('image', params['hash']!);
        const bytes = await imageBytes(context, params['hash']!);
        reply
          .type('application/octet-stream')
          .set('Cache-Control', 'private, max-age=31536000, immutable')
          .send(Buffer.from(bytes));
      },
    },
  ];
}

function openStream(reply: Response): (event: string, data: unknown) => void {
  reply.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
  reply.flushHeaders();
  return (event, data) => void reply.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
}
