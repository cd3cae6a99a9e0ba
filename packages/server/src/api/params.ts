import Joi from 'joi';

export const idParams = {
  id: Joi.string().pattern(/^[a-z0-9-]{1,60}$/, 'an id of lower-case letters, digits and dashes'),
};
export const hashParams = { hash: hash() };

export function hash() {
  return Joi.string().pattern(/^[0-9a-f]{64}$/, 'a SHA-256 in hexadecimal');
}
