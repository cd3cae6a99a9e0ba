import Joi from 'joi';
import { line, lines } from '@jolly/core/text/plainText';
import { object, of, type Shape } from './shape';

const machineId = () =>
  Joi.string().pattern(/^[a-z0-9-]{1,60}$/, 'an id of lower-case letters, digits and dashes');
const digits = () => Joi.string().pattern(/^\d{1,12}$/, 'a number');
const sha256 = () => Joi.string().pattern(/^[0-9a-f]{64}$/, 'a SHA-256 in hexadecimal');

/** An id in a path. */
export const id: Shape<string> = of(machineId);
/** An id that the database counts, in a path. */
export const number: Shape<string> = of(digits);
export const hash: Shape<string> = of(sha256);

export const ofMachine = { id };
export const numbered = { id, number };

export const fileName: Shape<string> = of(() =>
  Joi.string()
    .min(1)
    .max(120)
    .pattern(/^[^/\\\0]+$/, 'a file name without slashes'),
);

export const shortLine = (most: number, empty = false): Shape<string> =>
  of(() => (empty ? line(most).allow('') : line(most)));

/** Something that must be said in words, not clicked. */
export const words: Shape<string> = of(() => lines(300).trim().min(10));

/** An answer that says no more than that it is done. */
export const done: Shape<Record<never, never>> = object({});
