import Joi from 'joi';
import { once } from '../tree/once';

/** Guards an id in our files: words of lower-case letters and digits joined by dashes, 40 characters at most. */
export const id = once(() =>
  Joi.string()
    .pattern(/^[a-z0-9]+(-[a-z0-9]+)*$/)
    .max(40),
);
