import Joi from 'joi';
import { line, cleanPhoto, LARGEST_PHOTO } from '@jolly/core';
import { imageBytes } from '../board/virtualBoard.js';
import { type Context, machineOr404 } from '../context.js';
import { hashOf } from '../files/byteStore.js';
import { addPhoto, dropPhoto, findPhoto, listPhotos, savePhoto } from '../sql/photos.js';
import { factsToKeep } from '../board/virtualBoard.js';
import { ApiError, notFound } from './apiError.js';
import { type Endpoint } from './endpoint.js';
import { bytesOf, idParams, numberParam } from './params.js';

const pinSchema = Joi.object({
  x: Joi.number().min(0).max(1).required(),
  y: Joi.number().min(0).max(1).required(),
  label: line(80).required(),
  header: line(20),
});
const MOST_PHOTOS = 60;

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
      summary: 'Keep a photo (JPEG or PNG); everything in it that is not the picture is left out',
      params: idParams,
      query: { title: line(80).required() },
      takesBytes: LARGEST_PHOTO,
      run: async ({ params, query, body }) => {
        const { board } = await factsToKeep(context, params['id']!);
        const photo = cleanPhoto(bytesOf(body));
        if ('problem' in photo) throw new ApiError(422, 'bad-file', photo.problem);
        if ((await listPhotos(db, params['id']!)).length >= MOST_PHOTOS)
          throw new ApiError(
            409,
            'too-many',
            `at most ${MOST_PHOTOS} photos are kept for a machine; remove one first`,
          );
        const hash = hashOf(photo.bytes);
        await context.images.put(hash, photo.bytes);
        const { type, width, height } = photo;
        return addPhoto(db, params['id']!, {
          board: { id: board.id, revision: board.revision },
          hash, type, width, height, title: query['title']!, pins: [], at: context.now(),
        }); // prettier-ignore
      },
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
      summary: 'Remove a photo',
      params: numbered,
      run: async ({ params }) =>
        (await dropPhoto(db, params['id']!, Number(params['number']))) ||
        Promise.reject(notFound('photo', params['number']!)),
    },
    {
      method: 'get',
      path: '/machines/{id}/photos/{number}/bytes',
      summary: 'The picture itself',
      params: numbered,
      raw: true,
      run: async ({ params, reply }) => {
        const photo = await findPhoto(db, params['id']!, Number(params['number']));
        if (!photo) throw notFound('photo', params['number']!);
        reply
          .type(photo.type)
          .set('Cache-Control', 'private, max-age=31536000, immutable')
          .send(Buffer.from(await imageBytes(context, photo.hash)));
      },
    },
  ];
}
