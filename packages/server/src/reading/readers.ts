import { LONGEST_DUMP } from '@jolly/core/text/limits';
import { type Recording, replayed } from '@jolly/bench';
import type { Facts } from '@jolly/core/machine/facts';
import type { Board } from '@jolly/core/board/board';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Chip } from '@jolly/core/board/chip';
import type { Dialect } from '@jolly/core/report/dialect';
import type { ImageHeader } from '@jolly/core/image/imageHeader';
import type { KeptKind } from '@jolly/core/image/wayBack';
import { dumpRefusal, parseDump } from '@jolly/core/report/parseDump';
import { flashContent, plausible, type Plausibility } from '@jolly/core/image/plausible';
import { readBoardFile } from '@jolly/core/formats/boardFile';
import { readImageFile } from '@jolly/core/image/imageFile';
import { fromReport } from '@jolly/core/describe/fromReport';
import { readChipFile } from '@jolly/core/formats/chipFile';
import { readPartFile } from '@jolly/core/formats/partFile';
import { readMachineFile } from '@jolly/core/formats/machineFile';

/** What is judged of something that shall be kept. */
export interface Judged {
  format: 'bin' | 'hex' | 'uf2' | 'text';
  verdict: Plausibility['verdict'];
  evidence: string[];
}
type Refusable<T> = T | { problem: string };

/** Everything that reads bytes from outside, or runs an image. Pure: it runs in a thread of its own, with a time limit. */
export const READERS = {
  machineFile: readMachineFile,
  partFile: readPartFile,
  /** What a settings report says of a machine nobody has described yet. */
  described: ({ text, dialects, kits }: { text: string } & Pick<Catalogue, 'dialects' | 'kits'>) =>
    fromReport(text, { dialects, kits }),
  boardFile: ({ text, ...known }: { text: string } & Pick<Catalogue, 'chips' | 'boards'>) =>
    readBoardFile(text, known),
  chipFile: readChipFile,
  dump({ bytes, dialects }: { bytes: Uint8Array; dialects: Dialect[] }): Refusable<Judged> {
    if (bytes.length > LONGEST_DUMP)
      return {
        problem: `this has ${bytes.length} bytes; a settings report has a few thousand, and at most ${LONGEST_DUMP} are read`,
      };
    const text = new TextDecoder().decode(bytes);
    const problem = dumpRefusal(text, dialects);
    if (problem) return { problem };
    const { values, unread } = parseDump({ text, dialects });
    return {
      format: 'text',
      verdict: 'fits',
      evidence: [`${values.length} values read, ${unread.length} lines not`],
    };
  },
  image({ kind, bytes, board, chip }: FromBoard & { kind: KeptKind }): Refusable<Judged> {
    const file = readImageFile(bytes);
    if ('problem' in file) return file;
    if (kind === 'image') {
      const { verdict, evidence } = plausible(file, board, chip);
      return { format: file.format, verdict, evidence };
    }
    const empty = bytes.every((byte) => byte === 0xff);
    return {
      format: file.format,
      verdict: empty ? 'empty' : 'fits',
      evidence: [empty ? 'every byte is 0xFF: nothing is in it' : `${bytes.length} bytes`],
    };
  },
  /** How a run differs when it is run again; undefined when it does not. */
  replay: ({ facts, image, recording }: { facts: Facts; image: Uint8Array; recording: Recording }) =>
    replayed(facts, image, recording),
  /** What the flash holds once an image file was written to it. */
  flash({ bytes, board, chip }: FromBoard): Refusable<{ bytes: Uint8Array; header?: ImageHeader }> {
    const file = readImageFile(bytes);
    if ('problem' in file) return file;
    const content = flashContent(file, board, chip);
    if ('refused' in content) return { problem: content.refused };
    const { header } = plausible(file, board, chip);
    return { bytes: content.bytes, ...(header && { header }) };
  },
};
interface FromBoard {
  bytes: Uint8Array;
  board: Board;
  chip: Chip;
}

export type ReaderName = keyof typeof READERS;
export type Input<K extends ReaderName> = Parameters<(typeof READERS)[K]>[0];
export type Output<K extends ReaderName> = Awaited<ReturnType<(typeof READERS)[K]>>;
