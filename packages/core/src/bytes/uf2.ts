import { whyOf } from '../text/whyOf';
import Joi from 'joi';
import { blockSize, decodeBlock, encodeBlock, UF2Flags } from 'uf2';
import { CalcError, calculation } from '../calculation/calculation';
import { fromBase64, toBase64 } from './base64';
import { encoded, type EncodedSegment, placedBytes, refusePastTop } from './intelHex';
import { joinSegments, overlapAt, type Piece, type Segment } from './segments';

/** Bytes of the flash in each block; an image begins at a whole multiple of them. */
export const PAYLOAD = 256;
const MAGIC = 0x0a324655;

/** Bytes at an address as UF2 blocks of 256 payload bytes each; `family` marks every block. */
export const toUf2 = calculation<{ base64: string; address: number; family?: number }, { base64: string }>(
  'toUf2',
  () => Joi.object(placedBytes()),
  ({ base64, address, family }) => {
    const bytes = fromBase64(base64);
    refusePastTop(address, bytes);
    const total = Math.ceil(bytes.length / PAYLOAD);
    const file = new Uint8Array(total * blockSize);
    for (let block = 0; block < total; block += 1) {
      encodeBlock(
        {
          flags: family === undefined ? 0 : UF2Flags.familyIDPresent,
          flashAddress: address + block * PAYLOAD,
          payload: bytes.subarray(block * PAYLOAD, (block + 1) * PAYLOAD),
          blockNumber: block,
          totalBlocks: total,
          boardFamily: family ?? 0,
        },
        file,
        block * blockSize,
      );
    }
    return { base64: toBase64(file) };
  },
);

/**
 * How many bytes of 0xFF, as erased flash has them, fill the last block of an image, so that every block of the file is
 * whole: drives may leave a shorter one alone.
 */
export const uf2Fill = (bytes: number): number => (PAYLOAD - (bytes % PAYLOAD)) % PAYLOAD;

/** An image with its last block filled. */
export function inWholeBlocks(bytes: Uint8Array): Uint8Array {
  const whole = new Uint8Array(bytes.length + uf2Fill(bytes.length)).fill(0xff);
  whole.set(bytes);
  return whole;
}

/**
 * The segments of a UF2 file, in rising order, gaps kept. Blocks that are not meant for the flash are left out.
 * A broken block, a wrong count, an overlap or mixed families is an error that names its block.
 */
export const fromUf2 = calculation<{ base64: string }, { segments: EncodedSegment[]; family?: number }>(
  'fromUf2',
  () => Joi.object({ base64: placedBytes().base64 }),
  ({ base64 }) => {
    const { segments, family } = readUf2(fromBase64(base64));
    return { segments: segments.map(encoded), ...(family !== undefined && { family }) };
  },
);

/** Whether bytes begin as a UF2 file does. */
export function looksLikeUf2(bytes: Uint8Array): boolean {
  return bytes.length >= 4 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === MAGIC;
}

/** @throws {CalcError} naming the block, counted from 1 */
export function readUf2(bytes: Uint8Array): { segments: Segment[]; family?: number } {
  const total = Math.floor(bytes.length / blockSize);
  const refuse = (block: number, what: string): never => {
    throw new CalcError('base64', `block ${block}: ${what}`);
  };
  if (bytes.length % blockSize !== 0)
    refuse(total + 1, `has ${bytes.length % blockSize} bytes; every block has ${blockSize} (length)`);
  const pieces: Piece[] = [];
  let family: number | undefined;
  let first = true;
  for (let index = 0; index < total; index += 1) {
    const at = index + 1;
    // A copy, because the decoder looks at the whole buffer behind a view.
    const block = decoded(bytes.slice(index * blockSize, at * blockSize), (what) => refuse(at, what));
    if (block.blockNumber !== index || block.totalBlocks !== total)
      refuse(at, `says it is number ${block.blockNumber + 1} of ${block.totalBlocks}; the file has ${total}`);
    const own = block.flags & UF2Flags.familyIDPresent ? block.boardFamily : undefined;
    if (!first && own !== family)
      refuse(at, `is for family ${inHex(own)}, the blocks before for ${inHex(family)} (mixed families)`);
    family = own;
    first = false;
    if (block.flags & UF2Flags.notMainFlash) continue;
    pieces.push({ at, address: block.flashAddress, bytes: block.payload });
  }
  const clash = overlapAt(pieces);
  if (clash) refuse(clash.at, 'bytes that an earlier block already gave (overlap)');
  return { segments: joinSegments(pieces), ...(family !== undefined && { family }) };
}

function decoded(bytes: Uint8Array, refuse: (what: string) => never): ReturnType<typeof decodeBlock> {
  try {
    return decodeBlock(bytes);
  } catch (error) {
    const message = whyOf(error);
    return refuse(
      /payload/i.test(message) ? 'claims more bytes than fit (length)' : 'is not a UF2 block (damaged mark)',
    );
  }
}

const inHex = (family: number | undefined) => (family === undefined ? 'none' : `0x${family.toString(16)}`);
