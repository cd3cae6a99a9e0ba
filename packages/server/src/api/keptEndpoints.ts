import Joi from 'joi';
import { KEPT_KINDS } from '@jolly/core/image/wayBack';
import { LARGEST_IMAGE } from '@jolly/core/image/imageFile';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { boardOf, factsToKeep, imageBytes, restore, wayBackStops } from '../board/virtualBoard';
import { type Context, factsOr422, machineOr404 } from '../context';
import { addEntry } from '../sql/entries';
import { findKept, type Kept, listKept } from '../sql/kept';
import { listWaivers, putWaiver } from '../sql/waivers';
import { keep, keepFromBoard, onBench } from '../survey/keep';
import { notFound } from './apiError';
import type { Endpoint } from './endpoint';
import { bytesOf, fileName, idParams, numberParam, words } from './params';

export function keptEndpoints(context: Context): Endpoint[] {
  const { db } = context;
  const keptOr404 = async (machine: string, id: string): Promise<Kept> =>
    (await findKept(db, machine, Number(id))) ?? Promise.reject(notFound('kept thing', id));
  return [
    {
      method: 'get',
      path: '/machines/{id}/kept',
      summary: 'The way back: what is kept, what stops a flash, and what was waived',
      params: idParams,
      run: async ({ params }) => {
        const id = params['id']!;
        const facts = factsOr422(context, (await machineOr404(context, id)).machine);
        return {
          kept: await listKept(db, id),
          bench: await onBench(context, id),
          findings: await wayBackStops(context, id, await boardOf(context, facts)),
          waivers: await listWaivers(db, id),
          drawer: await drawerOf(context, id),
        };
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/kept/{kind}',
      summary:
        'Keep a file: an image (.bin, .hex, .uf2), bootloader, lock words, stored settings or a settings report',
      params: { ...idParams, kind: Joi.valid(...KEPT_KINDS) },
      query: { name: fileName, source: Joi.valid('file', 'link') },
      takesBytes: LARGEST_IMAGE,
      run: async ({ params, query, body }) => {
        const id = params['id']!;
        const facts = await factsToKeep(context, id);
        return keep(context, id, facts, {
          kind: params['kind'] as Kept['kind'],
          name: query['name']!,
          bytes: bytesOf(body),
          source: (query['source'] as Kept['source'] | undefined) ?? 'file',
        });
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/kept-from-board',
      summary: 'Read out of the virtual board whatever its chip gives, and keep it',
      params: idParams,
      run: ({ params }) => keepFromBoard(context, params['id']!),
    },
    {
      method: 'get',
      path: '/machines/{id}/kept/{number}/bytes',
      summary: 'The bytes of something kept, as they came',
      params: { ...idParams, ...numberParam },
      raw: true,
      run: async ({ params, reply }) => {
        const kept = await keptOr404(params['id']!, params['number']!);
        reply
          .type('application/octet-stream')
          .attachment(kept.name)
          .send(Buffer.from(await imageBytes(context, kept.hash)));
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/restores',
      summary: 'Write a kept image back to the board by programmer',
      params: idParams,
      body: Joi.object({ kept: Joi.number().integer().min(1).required() }),
      run: ({ params, body }) => restore(context, params['id']!, (body as { kept: number }).kept),
    },
    {
      method: 'post',
      path: '/machines/{id}/waivers',
      summary: 'Set a check aside, in words',
      params: idParams,
      body: Joi.object({ check: Joi.valid('keep.no-way-back').required(), because: words.required() }),
      run: async ({ params, body }) => {
        const { check, because } = body as { check: string; because: string };
        await machineOr404(context, params['id']!);
        await db.transaction(async (inside) => {
          await putWaiver(inside, params['id']!, check, because, context.now());
          await addEntry(inside, params['id']!, {
            at: context.now(),
            kind: 'kept',
            summary: `Goes on without a way back: ${because}`,
            detail: {},
          });
        });
        return listWaivers(db, params['id']!);
      },
    },
    {
      method: 'get',
      path: '/machines/{id}/drawer/{name}',
      summary: 'A file from the demo’s drawer',
      params: { ...idParams, name: fileName },
      raw: true,
      run: async ({ params, reply }) => {
        // Only names that the folder lists are read: a path is never made from what was asked.
        const name = (await drawerOf(context, params['id']!)).find((entry) => entry === params['name']);
        if (!name || !context.drawer) throw notFound('file in the drawer', params['name']!);
        const machine = (await machineOr404(context, params['id']!)).machine.id;
        reply.type('application/octet-stream').send(await readFile(join(context.drawer, machine, name)));
      },
    },
  ];
}

async function drawerOf(context: Context, machineId: string): Promise<string[]> {
  if (!context.drawer) return [];
  return (await readdir(join(context.drawer, machineId)).catch(() => [])).sort();
}
