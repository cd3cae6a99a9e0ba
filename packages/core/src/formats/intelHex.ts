import Joi from 'joi';
import MemoryMap from 'nrf-intel-hex';
import { CalcError, calculation } from '../calculation/calculation';
import { fromBase64, toBase64 } from './base64';
import { joinSegments, overlapAt, type Piece, type Segment } from './segments';

const LINE_BYTES = 16;
/** Largest file read, in characters: a 16 MB image takes about 45 million. */
const LONGEST = 64 * 2 ** 20;
export const TOP_ADDRESS = 2 ** 32;

export interface EncodedSegment {
  address: number;
  base64: string;
}
export const encoded = ({ address, bytes }: Segment): EncodedSegment => ({
  address,
  base64: toBase64(bytes),
});

/** Guards bytes that go to an address; they must end below 4 GB. */
export const placedBytes = {
  base64: Joi.string().allow('').base64().max(LONGEST),
  address: Joi.number()
    .integer()
    .min(0)
    .max(TOP_ADDRESS - 1),
  family: Joi.number()
    .integer()
    .min(0)
    .max(TOP_ADDRESS - 1)
    .optional(),
};

/** Refuses bytes that would run past the top of a 32-bit address space. */
export function refusePastTop(address: number, bytes: Uint8Array): void {
  if (address + bytes.length > TOP_ADDRESS)
    throw new CalcError('address', `"address" plus ${bytes.length} bytes must end below 4 GB`);
}

/** Bytes at an address as Intel HEX text, 16 bytes a line. `family` means nothing here and is ignored. */
export const toHex = calculation<{ base64: string; address: number; family?: number }, { text: string }>(
  'toHex',
  Joi.object(placedBytes),
  ({ base64, address }) => {
    const bytes = fromBase64(base64);
    refusePastTop(address, bytes);
    return { text: new MemoryMap(bytes.length ? [[address, bytes]] : []).asHexString(LINE_BYTES) };
  },
);

/**
 * The segments of an Intel HEX text, in rising order, gaps kept. A wrong checksum or length, an overlap or a
 * missing end is an error that names its line.
 */
export const fromHex = calculation<{ text: string }, { segments: EncodedSegment[] }>(
  'fromHex',
  Joi.object({ text: Joi.string().allow('').max(LONGEST) }),
  ({ text }) => ({ segments: readHex(text).map(encoded) }),
);

/** @throws {CalcError} naming the line */
export function readHex(text: string): Segment[] {
  // Blank lines are no records; they are kept as line ends only so that lines can be counted.
  const lines = text.split(/\r\n|\r|\n/);
  const records = lines
    .map((line, index) => ({ line: line.trim(), at: index + 1 }))
    .filter(({ line }) => line);
  const broken = records.find(({ line }) => !/^:(?:[0-9A-Fa-f]{2}){5,}$/.test(line));
  if (broken)
    throw new CalcError(
      'text',
      `line ${broken.at}: expected a record such as :0300300002337A1E, found "${broken.line.slice(0, 40)}"`,
    );
  const clash = overlapAt(dataPieces(records));
  try {
    return joinSegments(
      [...MemoryMap.fromHex(records.map(({ line }) => line).join('\n'))].map(([address, bytes]) => ({
        address,
        bytes,
      })),
    );
  } catch (error) {
    const message = (error as Error).message;
    const record = Number(/record (\d+)/.exec(message)?.[1]);
    if (/overlap/i.test(message) && clash)
      throw new CalcError('text', `line ${clash.at}: bytes that an earlier line already gave (overlap)`);
    const at = Number.isNaN(record) ? lines.length : (records[record - 1]?.at ?? lines.length);
    throw new CalcError('text', `line ${at}: ${inOurWords(message)}`);
  }
}

function inOurWords(message: string): string {
  if (/checksum/i.test(message))
    return `the checksum is wrong${/should be \w+/.exec(message)?.[0]?.replace('should', '; it should') ?? ''}`;
  if (/length/i.test(message)) return 'the record is longer or shorter than it says (length)';
  if (/EOF/.test(message)) return 'the end record :00000001FF is missing; the file is cut short';
  return message.replace(/\(:.*?\)/, '').trim();
}

/** Where each data record puts its bytes, without checking them. */
function dataPieces(records: { line: string; at: number }[]): Piece[] {
  let base = 0;
  return records.flatMap(({ line, at }) => {
    const type = parseInt(line.slice(7, 9), 16);
    const length = parseInt(line.slice(1, 3), 16);
    if (type === 2) base = parseInt(line.slice(9, 13), 16) * 16;
    if (type === 4) base = parseInt(line.slice(9, 13), 16) * 65536;
    if (type !== 0 || length === 0) return [];
    return [{ at, address: base + parseInt(line.slice(3, 7), 16), bytes: new Uint8Array(length) }];
  });
}
