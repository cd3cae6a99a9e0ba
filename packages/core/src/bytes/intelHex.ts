import Joi from 'joi';
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
export const placedBytes = () => ({
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
});

/** Refuses bytes that would run past the top of a 32-bit address space. */
export function refusePastTop(address: number, bytes: Uint8Array): void {
  if (address + bytes.length > TOP_ADDRESS)
    throw new CalcError('address', `"address" plus ${bytes.length} bytes must end below 4 GB`);
}

/** Bytes at an address as Intel HEX text, 16 bytes a line. `family` means nothing here and is ignored. */
export const toHex = calculation<{ base64: string; address: number; family?: number }, { text: string }>(
  'toHex',
  () => Joi.object(placedBytes()),
  ({ base64, address }) => {
    const bytes = fromBase64(base64);
    refusePastTop(address, bytes);
    return { text: [...dataRecords(bytes, address), record(0, END, [])].join('\n') };
  },
);

/**
 * The segments of an Intel HEX text, in rising order, gaps kept. A wrong checksum or length, an overlap or a
 * missing end is an error that names its line.
 */
export const fromHex = calculation<{ text: string }, { segments: EncodedSegment[] }>(
  'fromHex',
  () => Joi.object({ text: Joi.string().allow('').max(LONGEST) }),
  ({ text }) => ({ segments: readHex(text).map(encoded) }),
);

const [DATA, END, SEGMENT, LINEAR] = [0, 1, 2, 4];
/** How many data bytes each kind of record has; data records have any number. */
const LENGTHS: Record<number, number> = { [END]: 0, [SEGMENT]: 2, 3: 4, [LINEAR]: 2, 5: 4 };

/** The sum of all bytes of a record, its checksum included, ends in 00. */
const checksum = (bytes: readonly number[]) => -bytes.reduce((sum, byte) => sum + byte, 0) & 0xff;

/** The two bytes of an address record, high byte first. */
const word = ([high = 0, low = 0]: readonly number[]): number => high * 256 + low;

function record(address: number, type: number, data: readonly number[]): string {
  const bytes = [data.length, (address >> 8) & 0xff, address & 0xff, type, ...data];
  const hex = [...bytes, checksum(bytes)].map((byte) => byte.toString(16).padStart(2, '0'));
  return `:${hex.join('').toUpperCase()}`;
}

function dataRecords(bytes: Uint8Array, address: number): string[] {
  const lines: string[] = [];
  let upper = 0;
  for (let at = 0; at < bytes.length;) {
    const place = address + at;
    const high = Math.floor(place / 65536);
    if (high !== upper) lines.push(record(0, LINEAR, [high >> 8, high & 0xff]));
    upper = high;
    // No record crosses a 64 kB boundary: its address would wrap around.
    const length = Math.min(LINE_BYTES, bytes.length - at, 65536 - (place % 65536));
    lines.push(record(place % 65536, DATA, [...bytes.subarray(at, at + length)]));
    at += length;
  }
  return lines;
}

/** @throws {CalcError} naming the line */
export function readHex(text: string): Segment[] {
  const pieces: Piece[] = [];
  let base = 0;
  let ended = false;
  let at = 0;
  const refuse = (what: string): never => {
    throw new CalcError('text', `line ${at}: ${what}`);
  };
  for (const line of text.split(/\r\n|\r|\n/)) {
    at += 1;
    const code = line.trim();
    if (code === '') continue;
    if (ended) refuse('something follows the end record');
    if (!/^:(?:[0-9A-Fa-f]{2}){5,}$/.test(code))
      refuse(`expected a record such as :0300300002337A1E, found "${code.slice(0, 40)}"`);
    const bytes = Array.from({ length: (code.length - 1) / 2 }, (_, i) =>
      parseInt(code.slice(1 + 2 * i, 3 + 2 * i), 16),
    );
    const [length = 0, high = 0, low = 0, type = 0] = bytes;
    if (bytes.length !== length + 5) refuse('the record is longer or shorter than it says (length)');
    const sum = checksum(bytes.slice(0, -1));
    if (sum !== bytes.at(-1))
      refuse(`the checksum is wrong; it should be ${sum.toString(16).padStart(2, '0')}`);
    if (type !== DATA && LENGTHS[type] === undefined) refuse(`records of type ${type} are not known`);
    if (type !== DATA && LENGTHS[type] !== length)
      refuse(`a record of type ${type} has ${LENGTHS[type]} bytes (length)`);
    const data = bytes.slice(4, -1);
    if (type === SEGMENT) base = word(data) * 16;
    if (type === LINEAR) base = word(data) * 65536;
    if (type === END) ended = true;
    if (type === DATA && length > 0)
      pieces.push({ at, address: base + high * 256 + low, bytes: Uint8Array.from(data) });
  }
  if (!ended) refuse('the end record :00000001FF is missing; the file is cut short');
  const clash = overlapAt(pieces);
  if (clash) {
    at = clash.at;
    refuse('bytes that an earlier line already gave (overlap)');
  }
  return joinSegments(pieces);
}
