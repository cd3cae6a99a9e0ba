import Joi from 'joi';
import { line } from '../text/plainText';
import { calculation } from '../calculation/calculation';

/** A file name of 8 letters and 3, as bootloaders read it. */
export const EIGHT_AND_THREE = /^[A-Za-z0-9_~-]{1,8}\.[A-Za-z0-9]{1,3}$/;

/** How a board treats the file it finds on a card. */
export interface CardRule {
  kind: 'any' | 'fixed';
  name?: string;
  extension: string;
  ignoresRepeat: boolean;
  renames: boolean;
}
interface Input {
  machine: string;
  date: string;
  used: string[];
  rule: CardRule;
}
interface Output {
  name: string;
  repeatIgnored: boolean;
}

export const cardRuleSchema = Joi.object<CardRule>({
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
});

const schema = Joi.object({
  machine: line(200),
  date: Joi.string().isoDate().message('"date" must be an ISO date such as 2026-11-24'),
  used: Joi.array().items(line(255)).max(100000),
  rule: cardRuleSchema,
});

/**
 * The name an image must have on the card. Rule `any`: up to four letters of the machine, then month and day,
 * upper case 8.3; the letters give way to a count until no name in `used` equals it (compared without case).
 * Rule `fixed`: the name the board asks for; `repeatIgnored` when it was used before and the board ignores repeats.
 */
export const cardName = calculation<Input, Output>('cardName', schema, ({ machine, date, used, rule }) => {
  const taken = new Set(used.map((name) => name.toUpperCase()));
  if (rule.kind === 'fixed') {
    const name = fixedName(rule);
    return { name, repeatIgnored: rule.ignoresRepeat && taken.has(name.toUpperCase()) };
  }
  const extension = rule.extension.toUpperCase();
  const letters =
    machine
      .toUpperCase()
      .replace(/[^A-Z0-9]/g, '')
      .slice(0, 4) || 'BOARD';
  const day = `${date.slice(5, 7)}${date.slice(8, 10)}`;
  for (let count = 0; ; count += 1) {
    const suffix = count === 0 ? '' : count.toString(36).toUpperCase();
    const name = `${letters.slice(0, 4 - suffix.length)}${day}${suffix}.${extension}`;
    if (!taken.has(name)) return { name, repeatIgnored: false };
  }
});

/** The one name a board with a fixed name asks for, whether its data gives it with the extension or without. */
export const fixedName = ({ name = '', extension }: CardRule): string =>
  name.includes('.') ? name : `${name}.${extension}`;
