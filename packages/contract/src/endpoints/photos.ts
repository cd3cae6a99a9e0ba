import Joi from 'joi';
import { bytes, endpoint, json } from '../endpoint';
import { done, numbered, ofMachine, shortLine } from '../params';
import { count, list, moment, object, of, oneOf, optional, text, type TypeOf } from '../shape';

/** Largest photo taken, in bytes. */
export const LARGEST_PHOTO = 6 * 2 ** 20;

const share = of<number>(() => Joi.number().min(0).max(1));

/** A place on a photo: shares of its width and height, what is there, and the header it shows. */
const pin = object({ x: share, y: share, label: shortLine(80), header: optional(shortLine(20)) });
export type Pin = TypeOf<typeof pin>;

const storedPhoto = object({
  id: count,
  board: object({ id: text, revision: text }),
  hash: text,
  type: oneOf('image/jpeg', 'image/png'),
  title: text,
  width: count,
  height: count,
  pins: list(pin),
  at: moment,
});
export type StoredPhoto = TypeOf<typeof storedPhoto>;

export const photos = {
  photos: endpoint('get /machines/{id}/photos', {
    summary: 'Photos of connectors, oldest first',
    params: ofMachine,
    answer: json(list(storedPhoto)),
  }),
  addPhoto: endpoint('post /machines/{id}/photos', {
    summary: 'Keep a photo (JPEG or PNG), drawn anew: nothing is in it but the picture',
    params: ofMachine,
    query: { title: shortLine(80) },
    takesBytes: LARGEST_PHOTO,
    answer: json(storedPhoto),
    refusals: ['unknown-id', 'bad-file', 'too-many'],
  }),
  savePhoto: endpoint('put /machines/{id}/photos/{number}', {
    summary: 'Title and pins of a photo',
    params: numbered,
    body: object({ title: shortLine(80), pins: list(pin, 60) }),
    answer: json(storedPhoto),
  }),
  removePhoto: endpoint('delete /machines/{id}/photos/{number}', {
    summary: 'Remove a photo; it can be put back for ten minutes',
    params: numbered,
    answer: json(object({ photo: storedPhoto, until: moment })),
  }),
  putPhotoBack: endpoint('post /machines/{id}/photos/{number}/back', {
    summary: 'Put a removed photo back',
    params: numbered,
    answer: json(storedPhoto),
    refusals: ['too-many'],
  }),
  forgetPhoto: endpoint('post /machines/{id}/photos/{number}/forget', {
    summary: 'Forget a removed photo at once, its bytes too',
    params: numbered,
    answer: json(done),
  }),
  photoBytes: endpoint('get /machines/{id}/photos/{number}/bytes', {
    summary: 'The picture itself',
    params: numbered,
    answer: bytes,
  }),
};
