import Joi from 'joi';
import { type CardRule, cardRuleSchema, fixedName } from '../board/cardRule';
import { line } from '../text/plainText';
import { calculation } from '../calculation/calculation';
import { once } from '../tree/once';

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

const schema = once(() =>
  Joi.object({
    machine: line(200),
    date: Joi.string().isoDate().message('"date" must be an ISO date such as 2026-11-24'),
    used: Joi.array().items(line(255)).max(100000),
    rule: cardRuleSchema(),
  }),
);

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
