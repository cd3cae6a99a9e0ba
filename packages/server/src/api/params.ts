import Joi from 'joi';
import { lines } from '@jolly/core/text/plainText';

export const idParams = {
  id: Joi.string().pattern(/^[a-z0-9-]{1,60}$/, 'an id of lower-case letters, digits and dashes'),
};
export const hashParams = { hash: hash() };

export function hash() {
  return Joi.string().pattern(/^[0-9a-f]{64}$/, 'a SHA-256 in hexadecimal');
}

/** Ids that the database counts. */
export const numberParam = { number: Joi.string().pattern(/^\d{1,12}$/, 'a number') };

export const fileName = Joi.string()
  .min(1)
  .max(120)
  .pattern(/^[^/\\\0]+$/, 'a file name without slashes')
  .required();

/** Something that must be said in words, not clicked. */
export const words = lines(300).trim().min(10);

/** A body that was no bytes at all comes as an empty object. */
export const bytesOf = (body: unknown): Uint8Array =>
  Buffer.isBuffer(body) ? new Uint8Array(body) : new Uint8Array();
