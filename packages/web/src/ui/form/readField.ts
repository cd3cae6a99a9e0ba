import type { FormField } from '@jolly/core/tree/formField';
import { readNumber } from '../readNumber';

/** What was typed in a field, as it goes into the file; undefined where the field was emptied. */
export type ReadField = { value: unknown } | { refused: string };

const RANGE = /^(\d+)(?:\.\.|-)(\d+)$/;

/** Reads what was typed, by what the field is. Words and numbers are parted by spaces or commas; `28..31` counts on. */
export function readField(field: FormField, typed: string): ReadField {
  const said = typed.trim();
  if (said === '') return { value: undefined };
  switch (field.is) {
    case 'number':
      return number(field, said);
    case 'numbers':
      return numbers(field, said);
    case 'words':
      return { value: said.split(',').map((word) => word.trim()).filter(Boolean) }; // prettier-ignore
    default:
      return { value: said };
  }
}

function number({ label, unit, range }: FormField, said: string): ReadField {
  const value = readNumber(said, unit);
  if (value !== undefined && range && (value < range[0] || value > range[1]))
    return { refused: `${label}: ${range[0]} to ${range[1]}${unit ? ` ${unit}` : ''}` };
  return value === undefined
    ? {
        refused: `${label}: “${said}” is no number${unit ? ` of ${unit} or of a unit that turns into it` : ''}`,
      }
    : { value };
}

function numbers(field: FormField, said: string): ReadField {
  const found: number[] = [];
  for (const word of said.split(/[\s,;]+/).filter(Boolean)) {
    const [, from, to] = RANGE.exec(word) ?? [];
    if (from !== undefined && Number(to) - Number(from) >= 0 && Number(to) - Number(from) < 256) {
      for (let one = Number(from); one <= Number(to); one += 1) found.push(one);
      continue;
    }
    const read = number(field, word);
    if ('refused' in read) return read;
    found.push(Number(read.value));
  }
  return { value: found };
}

/** A value of the file, as it is typed. */
export function typedOf(value: unknown): string {
  if (value === undefined || value === null) return '';
  if (Array.isArray(value)) return value.every((one) => typeof one === 'number') ? value.join(' ') : value.join(', '); // prettier-ignore
  return typeof value === 'object' ? '' : String(value as string | number | boolean); // nothing else is left
}
