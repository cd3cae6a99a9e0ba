import { readNumber } from '../ui/readNumber';
import { type Typed, TypedError, type ToolField } from './tool';

/** The number in a field, in its unit. @throws {TypedError} naming the field */
export function numberIn(typed: Typed, key: string, label: string, unit = ''): number {
  const value = readNumber(typed[key] ?? '', unit);
  if (value === undefined) throw new TypedError(`${label}: type a number${unit && ` of ${unit}`}`);
  return value;
}

export const field = (
  key: string,
  label: string,
  unit: string,
  start: number | string | undefined,
): ToolField => ({
  key,
  label,
  ...(unit && { unit }),
  start: start === undefined ? '' : String(start),
});
/** A field for what is measured: empty until something is typed, with an example of what is meant. */
export const measured = (key: string, label: string, unit: string, example: number | string): ToolField => ({
  ...field(key, label, unit, ''),
  example: `for example ${example}`,
});
export const choice = (
  key: string,
  label: string,
  choices: Record<string, string>,
  start: string,
): ToolField => ({
  key,
  label,
  choices: Object.entries(choices).map(([value, text]) => ({ value, label: text })),
  start,
});

/** Below this a number is what rounding left. */
const NOISE = 1e-9;

/** No more digits than matter. */
export const short = (value: number, digits = 4): string =>
  String(Math.abs(value) < NOISE ? 0 : Number(value.toPrecision(digits)));
