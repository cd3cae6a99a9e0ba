import { figureInWords } from '../text/figureInWords';

/** A line of a logbook, and something that was measured, as they are told. */
interface Line {
  at: string;
  kind: string;
  summary: string;
}
interface MeasuredLine {
  at: string;
  words: string;
  figures: readonly { label: string; value: number; unit: string }[];
}

/** Text in Markdown that is nothing but text: no table is broken, no link or heading made. */
const plain = (text: string): string =>
  text.replace(/[\\`*_{}[\]<>#|~]/g, (sign) => `\\${sign}`).replace(/\s+/g, ' ');

/** The record of a machine as Markdown: its numbers first, then its logbook, both newest first. */
export function recordAsMarkdown(
  name: string,
  day: string,
  { entries, measured }: { entries: readonly Line[]; measured: readonly MeasuredLine[] },
): string {
  const numbers = measured.flatMap(({ at, figures }) =>
    figures.map(
      ({ label, value, unit }) =>
        `| ${at.slice(0, 10)} | ${plain(label)} | ${figureInWords(value)} ${plain(unit)} |`,
    ),
  );
  return [
    `# ${plain(name)}: record of ${day}`,
    '',
    '## Measured',
    '',
    ...(numbers.length > 0
      ? ['| day | what | value |', '|---|---|---|', ...numbers]
      : ['Nothing is on record.']),
    '',
    '## Logbook',
    '',
    ...entries.map(
      ({ at, kind, summary }) => `- ${at.slice(0, 16).replace('T', ' ')}, ${kind}: ${plain(summary)}`,
    ),
    '',
  ].join('\n');
}
