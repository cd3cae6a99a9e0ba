import { pathToFileURL } from 'node:url';
import { join } from 'node:path';
import { startReading } from '../../../packages/server/src/reading/reading';
import { root } from '../product';
import { must, type Trial } from '../trial';

type Make = (length: number) => string;
const rep =
  (piece: string): Make =>
  (length) =>
    piece.repeat(Math.floor(length / piece.length));
const rows =
  (make: (index: number) => string): Make =>
  (length) => {
    const list: string[] = [];
    for (let size = 0, i = 0; size < length; i += 1) size += list[list.push(make(i)) - 1]!.length + 1;
    return list.join('\n').slice(0, length);
  };
const SHAPES: Record<string, Make> = {
  quotes: rep('"'), apostrophes: rep("'"), commas: rep('[,'), brackets: rep('['), pairs: rep('[]'), braces: rep('{'),
  dashes: rep('- '), questions: rep('? '), colons: rep('a: '), anchors: rows((i) => `- &a${i} x`), pipes: rep('- |\n'),
  aliases: (length) => `a: &a x\nb: [${'*a,'.repeat(length / 3)}]`, tags: rep('- !!x y\n'), directives: rep('%a\n'),
  unknown: rows((i) => `k${i}: 1`), doubled: rep('a: 1\n'), comments: rep('#x\n'), blank: rep(' '), lines: rep('\n'),
  deep: rows((i) => `${' '.repeat(i % 500)}a:`), parens: rep('('), parenLines: rows(() => '('.repeat(380)),
  codes: rep('M92 X1 Y2\n'), words: rows(() => 'ab '.repeat(120)), digits: rep('1'), mixed: rows((i) => `M92 X${i} ;(((`),
  records: rep(':0100000000FF\n'), colonsHex: rep(':'), magic: rep('UF2\n'),
}; // prettier-ignore
const READERS = ['machineFile', 'dump', 'hex'] as const;
const LENGTH = 40_000;
/** Twice the text in this many times the time is taken for more than linear. */
const MOST_GROWTH = 3.2;

const reading = startReading(pathToFileURL(join(root, 'dist/readerWorker.mjs')));
export const closeReading = (): Promise<void> => reading.close();

async function took(reader: (typeof READERS)[number], text: string): Promise<number> {
  const bytes = new TextEncoder().encode(text);
  const from = performance.now();
  if (reader === 'machineFile') await reading.read('machineFile', text);
  else if (reader === 'dump') await reading.read('dump', { bytes, dialects: [] });
  else await reading.read('image', { kind: 'bootloader', bytes, board: {} as never, chip: {} as never });
  return performance.now() - from;
}

/** Input doubled may take little more than double the time. The least of several counts: neighbours only add. */
export const readerBombs: Trial = {
  name: 'reader bombs, doubled',
  share: 1,
  async attempt({ chance }) {
    const shape = chance.one(Object.keys(SHAPES));
    const reader = chance.one(READERS);
    const least = async (length: number) => {
      const text = SHAPES[shape]!(length);
      return Math.min(await took(reader, text), await took(reader, text), await took(reader, text));
    };
    const measure = async () => {
      const times = [await least(LENGTH), await least(2 * LENGTH), await least(4 * LENGTH)] as const;
      return { times, grows: Math.max(times[1], times[2] / 2) / Math.max(times[0], 25) };
    };
    // A neighbour may have been loud through all of a measurement, so a bad one is made again.
    let found = await measure();
    if (found.grows >= MOST_GROWTH) found = await measure();
    const words = found.times.map((time) => time.toFixed(0)).join(', ');
    must(
      found.grows < MOST_GROWTH,
      `${shape} through ${reader}: ${words} ms for once, twice and four times the text`,
    );
  },
};
