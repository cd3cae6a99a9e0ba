/** A line of two texts: in both, or in one of them alone. */
export interface ComparedLine {
  is: 'same' | 'only has' | 'only wanted';
  text: string;
}

/** Remarks and spaces say nothing to the machine. */
const said = (line: string): string => line.replace(/;.*$/, '').trim().replace(/\s+/g, ' ');

/** No start code is longer; a text beyond is cut off there. */
const MOST_LINES = 400;

/**
 * Two G-codes line by line, in the order of both: the longest row of lines they have in common, and what either has besides.
 * Remarks, empty lines and spaces do not count.
 */
export function lineDifferences(has: string, wanted: string): ComparedLine[] {
  const plain = (text: string) =>
    text
      .split(/\r?\n/)
      .map(said)
      .filter((line) => line !== '')
      .slice(0, MOST_LINES);
  const [one, other] = [plain(has), plain(wanted)];
  const common = Array.from({ length: one.length + 1 }, () => new Uint16Array(other.length + 1));
  const at = (i: number, j: number) => common[i]?.[j] ?? 0;
  for (let i = one.length - 1; i >= 0; i -= 1)
    for (let j = other.length - 1; j >= 0; j -= 1) {
      const row = common[i];
      if (row) row[j] = one[i] === other[j] ? at(i + 1, j + 1) + 1 : Math.max(at(i + 1, j), at(i, j + 1));
    }
  const lines: ComparedLine[] = [];
  let [i, j] = [0, 0];
  while (i < one.length || j < other.length) {
    if (i < one.length && j < other.length && one[i] === other[j]) {
      lines.push({ is: 'same', text: one[i] ?? '' });
      [i, j] = [i + 1, j + 1];
    } else if (i < one.length && (j >= other.length || at(i + 1, j) >= at(i, j + 1))) {
      lines.push({ is: 'only has', text: one[i] ?? '' });
      i += 1;
    } else {
      lines.push({ is: 'only wanted', text: other[j] ?? '' });
      j += 1;
    }
  }
  return lines;
}
