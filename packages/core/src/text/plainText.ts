import Joi from 'joi';

/**
 * What free text may not hold: control characters, halves of a character, separators of lines and paragraphs, marks
 * that turn the direction of what follows, and the byte order mark. All of them can make a text look like another
 * one, or end the line it is written into.
 */
const UNPRINTABLE = String.raw`\p{Cc}\p{Cs}\p{Zl}\p{Zp}\u202a-\u202e\u2066-\u2069\ufeff\ufffe\uffff`;
const NOT_ON_A_LINE = new RegExp(`[${UNPRINTABLE}]`, 'u');
/** Line ends and tabs are control characters that a longer text may have. */
const NOT_IN_LINES = new RegExp(`(?![\\n\\r\\t])[${UNPRINTABLE}]`, 'u');

const RULES = {
  line: [NOT_ON_A_LINE, 'one line of printable characters'],
  lines: [NOT_IN_LINES, 'printable characters and line ends'],
} as const;

const text = (rule: keyof typeof RULES, longest: number): Joi.StringSchema =>
  Joi.string()
    .max(longest)
    .pattern(RULES[rule][0], { name: rule, invert: true })
    .messages({ 'string.pattern.invert.name': `{{#label}} must be ${RULES[rule][1]}` });

/** Guards a name, a label or a reason: one line of printable characters, as long as the place that shows it allows. */
export const line = (longest: number): Joi.StringSchema => text('line', longest);

/** Guards a note or a piece of G-code: printable characters, tabs and line ends. */
export const lines = (longest: number): Joi.StringSchema => text('lines', longest);

/** Whether a text could be stored and sent at all: no NUL, and no half of a character. */
export const isWhole = (value: string): boolean => !value.includes('\0') && !/\p{Cs}/u.test(value);

/** A text made printable on one line, for writers that must not fail: what is not printable becomes a space. */
export const onOneLine = (value: string): string => value.replace(new RegExp(`[${UNPRINTABLE}]+`, 'gu'), ' ');

/** The first `longest` UTF-16 units of a text, never half of a character. */
export const cut = (value: string, longest: number): string =>
  value.slice(0, longest).replace(/[\ud800-\udbff]$/, '');
