/**
 * Rows as CSV after RFC 4180: a field with a comma, quote or line break is quoted. What a table
 * program would take for a formula is made text.
 */
export function csv(rows: readonly (readonly string[])[]): string {
  return rows.map((row) => `${row.map(field).join(',')}\r\n`).join('');
}

/** CSV with the mark by which table programs know UTF-8. */
export const withMark = (text: string): string => `\uFEFF${text}`;

/** A leading =, +, @ or tab, and a minus that does not begin a number, with or without spaces before it. */
const FORMULA = /^\s*(?:[=+@]|-(?![\d.]+$))|^[\t\r]/;

function field(text: string): string {
  const safe = FORMULA.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
