/** Rows as CSV after RFC 4180: a field with a comma, quote or line break is quoted. A leading =, + or @ is made text. */
export function csv(rows: readonly (readonly string[])[]): string {
  return rows.map((row) => `${row.map(field).join(',')}\r\n`).join('');
}

function field(text: string): string {
  // A table program would run what begins like a formula.
  const safe = /^[=+@\t\r]/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
