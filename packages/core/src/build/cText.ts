import { onOneLine } from '../text/plainText';

declare const asC: unique symbol;
/** A line of generated C. Only the writers of this file make one, so that no text of a user becomes code. */
export type CLine = string & { readonly [asC]: 'line' };
/** A value in generated C: a literal, the name of another macro, or a list of values. */
export type CValue = string & { readonly [asC]: 'value' };

const NAME = /^[A-Z][A-Z0-9_]{0,99}$/;

/** The name of a macro. @throws {TypeError} when it is none */
export function cName(name: string): CValue {
  if (!NAME.test(name)) throw new TypeError(`"${name}" cannot be the name of a macro`);
  // Here a text becomes C: only names that C knows come through.
  return name as CValue;
}

/** A whole number. @throws {TypeError} when it is none, or more than 32 bits hold */
export function cInteger(value: number): CValue {
  if (!Number.isInteger(value) || value < -(2 ** 31) || value >= 2 ** 32)
    throw new TypeError(`${value} is not a whole number of 32 bits`);
  // Only whole numbers get here.
  return String(value) as CValue;
}

/** A single-precision number. @throws {TypeError} when it is not finite */
export function cFloat(value: number): CValue {
  if (!Number.isFinite(value) || Math.abs(value) > 3.4e38)
    throw new TypeError(`${value} is not a number of single precision`);
  const text = String(value);
  // Only finite numbers get here.
  return (/[.e]/.test(text) ? `${text}f` : `${text}.0f`) as CValue;
}

/**
 * A string literal: printable ASCII stands as it is, all else, with quote, backslash and question mark (trigraphs),
 * as the octal of its UTF-8 bytes.
 */
export function cString(text: string): CValue {
  const bytes = [...new TextEncoder().encode(text)];
  const letters = bytes.map((byte) => {
    const letter = String.fromCharCode(byte);
    return /[ -~]/.test(letter) && !'"\\?'.includes(letter)
      ? letter
      : `\\${byte.toString(8).padStart(3, '0')}`;
  });
  // Every letter that could end it is written as a number.
  return `"${letters.join('')}"` as CValue;
}

/** A list of values in braces. */
export const cList = (values: readonly CValue[]): CValue => `{${values.join(',')}}` as CValue;

/** A comment of its own, or behind a line: on one line, without anything that ends it or goes on with the next. */
export function cComment(text: string): CLine {
  const inside = onOneLine(text).replace(/\*/g, '·').replace(/\\/g, '/').trim();
  // Nothing in it can end the comment.
  return `/* ${inside} */` as CLine;
}

/** `#define NAME value`, with what it is behind it. */
export function cDefine(name: string, value: CValue, comment?: string): CLine {
  const line = `#define ${cName(name)} ${value}`;
  // The line is made of C values, the comment is one.
  return (comment === undefined ? line : `${line} ${cComment(comment)}`) as CLine;
}

/** A line that fails the build with a message. */
export const cError = (message: string): CLine => `#error ${cString(message)}` as CLine;

/** The header may be included by several sources of one build. */
export const cOnce = '#pragma once' as CLine;
