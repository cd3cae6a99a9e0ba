import Joi from 'joi';
import { once } from '../tree/once';

/**
 * What free text may not hold: control characters, separators of lines and paragraphs, marks that turn the direction
 * of what follows, the byte order mark, and halves of a character. All of them can make a text look like another one,
 * or end the line it is written into. (Written without the `u` flag, so that a JSON Schema can carry it.)
 */
const CONTROLS = String.raw`\u0000-\u001f\u007f-\u009f`;
const MISLEADING = String.raw`\u2028-\u202e\u2066-\u2069\ufeff\ufffe\uffff`;
const HALVES = String.raw`\ud800-\udfff`;
const printable = (more: string) =>
  new RegExp(String.raw`^(?:[^${CONTROLS}${MISLEADING}${HALVES}]|[\ud800-\udbff][\udc00-\udfff]${more})*$`);
const UNPRINTABLE = new RegExp(`[\\p{Cs}${CONTROLS}${MISLEADING}]+`, 'gu');

const RULES = {
  line: { pattern: printable(''), says: 'one line of printable characters' },
  lines: { pattern: printable(String.raw`|[\n\r\t]`), says: 'printable characters and line ends' },
} as const;

// Words of its own are the dearest part of a schema: they are written into it once, not for each length.
const worded = (rule: keyof typeof RULES) =>
  once(() =>
    Joi.string()
      .min(1)
      .pattern(RULES[rule].pattern, rule)
      .messages({ 'string.pattern.name': `{{#label}} must be ${RULES[rule].says}` }),
  );
const TEXTS = { line: worded('line'), lines: worded('lines') } as const;

/** Guards a name, a label or a reason: one line of printable characters, as long as the place that shows it allows. */
export const line = (longest: number): Joi.StringSchema => TEXTS.line().max(longest);

/** Guards a note or a piece of G-code: printable characters, tabs and line ends. */
export const lines = (longest: number): Joi.StringSchema => TEXTS.lines().max(longest);

/** Whether a text could be stored and sent at all: no NUL, and no half of a character. */
export const isWhole = (value: string): boolean => !value.includes('\0') && !/\p{Cs}/u.test(value);

/** A text made printable on one line, for writers that must not fail: what is not printable becomes a space. */
export const onOneLine = (value: string): string => value.replace(UNPRINTABLE, ' ');

/** The first `longest` UTF-16 units of a text, never half of a character. */
export const cut = (value: string, longest: number): string =>
  value.slice(0, longest).replace(/[\ud800-\udbff]$/, '');
