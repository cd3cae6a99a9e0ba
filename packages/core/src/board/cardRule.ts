import Joi from 'joi';
import { once } from '../tree/once';

/** How a board treats the file it finds on a card. */
export interface CardRule {
  kind: 'any' | 'fixed';
  name?: string;
  extension: string;
  ignoresRepeat: boolean;
  renames: boolean;
}

export const cardRuleSchema = once(() =>
  Joi.object<CardRule>({
    kind: Joi.valid('any', 'fixed').required(),
    name: Joi.when('kind', {
      is: 'fixed',
      then: Joi.string()
        .pattern(/^[A-Za-z0-9_-]{1,8}(\.[A-Za-z0-9]{1,3})?$/)
        .required(),
      otherwise: Joi.any().forbidden(),
    }),
    extension: Joi.string()
      .pattern(/^[A-Za-z0-9]{1,3}$/)
      .required(),
    ignoresRepeat: Joi.boolean().required(),
    renames: Joi.boolean().required(),
  }),
);

/** The one name a board with a fixed name asks for, whether its data gives it with the extension or without. */
export const fixedName = ({ name = '', extension }: CardRule): string =>
  name.includes('.') ? name : `${name}.${extension}`;
