/** One row of a CSV file (RFC 4180). Text that a spreadsheet would take for a formula begins with an apostrophe. */
export function csvRow(cells: readonly (string | number)[]): string {
  return `${cells.map(cellOf).join(',')}\r\n`;
}

function cellOf(cell: string | number): string {
  if (typeof cell === 'number') return String(cell);
  const plain = /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell;
  return /[",\r\n]/.test(plain) ? `"${plain.replaceAll('"', '""')}"` : plain;
}
