import { byteAt, type Cursor, readLeb, skipLeb } from './leb128';

export interface Instruction {
  opcode: number;
  /** It begins a block, a loop or a branch. */
  opens: boolean;
  closes: boolean;
  /** Of a branch on a condition: how many open blocks it may leave besides the innermost; more than any for a table. */
  leaves?: number;
}

export const LOOP = 0x03;
const BLOCK = 0x02;
export const IF = 0x04;
export const ELSE = 0x05;
const BRANCH_IF = 0x0d;
const BRANCH_TABLE = 0x0e;
const END = 0x0b;
/** Opcodes that stand behind a prefix are told as the prefix shifted, plus their own number. */
const MORE = 0xfc;

type Skip = (cursor: Cursor) => void;
const nothing: Skip = () => undefined;
const one: Skip = skipLeb;
const two: Skip = (cursor) => (skipLeb(cursor), skipLeb(cursor));
const bytes =
  (count: number): Skip =>
  (cursor) =>
    void (cursor.at += count);
const list: Skip = (cursor) => {
  for (let left = readLeb(cursor); left > 0; left -= 1) skipLeb(cursor);
};

/** What follows an opcode, by ranges of opcodes: the core of WebAssembly, as clang writes it for a plain chip. */
const OPERANDS: readonly (readonly [from: number, to: number, skip: Skip])[] = [
  [0x00, 0x01, nothing],
  [BLOCK, IF, one],
  [0x05, 0x05, nothing],
  [END, END, nothing],
  [0x0c, 0x0d, one],
  [0x0e, 0x0e, (cursor) => (list(cursor), skipLeb(cursor))],
  [0x0f, 0x0f, nothing],
  [0x10, 0x10, one],
  [0x11, 0x11, two],
  [0x1a, 0x1b, nothing],
  [0x1c, 0x1c, list],
  [0x20, 0x26, one],
  [0x28, 0x3e, two],
  [0x3f, 0x40, one],
  [0x41, 0x42, one],
  [0x43, 0x43, bytes(4)],
  [0x44, 0x44, bytes(8)],
  [0x45, 0xc4, nothing],
  [0xd0, 0xd0, one],
  [0xd1, 0xd1, nothing],
  [0xd2, 0xd2, one],
];
const MORE_OPERANDS: readonly (readonly [from: number, to: number, skip: Skip])[] = [
  [0, 7, nothing],
  [8, 8, two],
  [9, 9, one],
  [10, 10, two],
  [11, 11, one],
  [12, 12, two],
  [13, 13, one],
  [14, 14, two],
  [15, 17, one],
];

/** The instruction at the cursor, which then stands behind it. @throws {Error} for one that no chip of the bench has */
export function instructionAt(cursor: Cursor): Instruction {
  const first = byteAt(cursor);
  const opcode = first === MORE ? readLeb(cursor) : first;
  const row = (first === MORE ? MORE_OPERANDS : OPERANDS).find(
    ([from, to]) => opcode >= from && opcode <= to,
  );
  if (!row) throw new Error(`the image holds an instruction that the chip does not know: ${first} ${opcode}`);
  const operand = cursor.at;
  row[2](cursor);
  return {
    opcode: first === MORE ? (MORE << 8) | opcode : opcode,
    opens: opcode >= BLOCK && opcode <= IF && first !== MORE,
    closes: first === END,
    ...(first === BRANCH_IF && { leaves: readLeb({ bytes: cursor.bytes, at: operand }) }),
    ...(first === BRANCH_TABLE && { leaves: Infinity }),
  };
}
