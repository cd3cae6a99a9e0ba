import Joi from 'joi';
import { line } from '@jolly/core/text/plainText';
import { type Context, machineOr404 } from '../context';
import { LARGEST_PHOTO } from '../files/redrawPhoto';
import { listPhotos, savePhoto } from '../sql/photos';
import { forgetNow, keepPhoto, photoBytes, putPhotoBack, removePhoto } from '../survey/photos';
import { notFound } from './apiError';
import type { Endpoint } from './endpoint';
import { bytesOf, idParams, numberParam } from './params';

const pinSchema = Joi.object({
  x: Joi.number().min(0).max(1).required(),
  y: Joi.number().min(0).max(1).required(),
  label: line(80).required(),
  header: line(20),
});

export function photoEndpoints(context: Context): Endpoint[] {
  const { db } = context;
  const numbered = { ...idParams, ...numberParam };
  return [
    {
      method: 'get',
      path: '/machines/{id}/photos',
      summary: 'Photos of connectors, oldest first',
      params: idParams,
      run: async ({ params }) => {
        await machineOr404(context, params['id']!);
        return listPhotos(db, params['id']!);
      },
    },
    {
      method: 'post',
      path: '/machines/{id}/photos',
      summary: 'Keep a photo (JPEG or PNG), drawn anew: nothing is in it but the picture',
      params: idParams,
      query: { title: line(80).required() },
      takesBytes: LARGEST_PHOTO,
      run: ({ params, query, body }) => keepPhoto(context, params['id']!, query['title']!, bytesOf(body)),
    },
    {
      method: 'put',
      path: '/machines/{id}/photos/{number}',
      summary: 'Title and pins of a photo',
      params: numbered,
      body: Joi.object({
        title: line(80).required(),
        pins: Joi.array().items(pinSchema).max(60).required(),
      }),
      run: async ({ params, body }) =>
        (await savePhoto(db, params['id']!, Number(params['number']), body)) ??
        Promise.reject(notFound('photo', params['number']!)),
    },
    {
      method: 'delete',
      path: '/machines/{id}/photos/{number}',
      summary: 'Remove a photo; it can be put back for ten minutes',
      params: numbered,
      run: ({ params }) => removePhoto(context, params['id']!, Number(params['number'])),
    },
    {
      method: 'post',
      path: '/machines/{id}/photos/{number}/back',
      summary: 'Put a removed photo back',
      params: numbered,
      run: ({ params }) => putPhotoBack(context, params['id']!, Number(params['number'])),
    },
    {
      method: 'post',
      path: '/machines/{id}/photos/{number}/forget',
      summary: 'Forget a removed photo at once, its bytes too',
      params: numbered,
      run: ({ params }) => forgetNow(context, params['id']!, Number(params['number'])),
    },
    {
      method: 'get',
      path: '/machines/{id}/photos/{number}/bytes',
      summary: 'The picture itself',
      params: numbered,
      raw: true,
      run: async ({ params, reply }) => {
        const { photo, bytes } = await photoBytes(context, params['id']!, Number(params['number']));
        // Asked for anew each time: a removed photo is not shown from the browser's memory.
        reply.type(photo.type).set('Cache-Control', 'private, no-cache').send(Buffer.from(bytes));
      },
    },
  ];
}
