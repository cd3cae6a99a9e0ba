import { describe, expect, it } from 'vitest';
import { compiled } from '../src/firmware/compiled';
import { type CycleCosts, cycleCosts } from '../src/firmware/cycles';
import { lebBytes } from '../src/firmware/leb128';
import { TAKE_CYCLES, metered } from '../src/firmware/meter';

const COSTS: CycleCosts = cycleCosts({ word_bits: 8 });
const GET = [0x20, 0x00];
const BLOCK = [0x02, 0x40];
const LOOP = [0x03, 0x40];
const IF = [0x04, 0x40];
const ELSE = [0x05];
const END = [0x0b];
const branchIf = (depth: number) => [0x0d, depth];
/** So many multiplications, thrown away. */
const MULTIPLY = [0x41, 3, 0x41, 3, 0x6c, 0x1a];
const work = (times: number) => Array.from({ length: times }, () => MULTIPLY).flat();
/** The parameter less one, which stays in it and on the stack. */
const COUNT_DOWN = [...GET, 0x41, 1, 0x6b, 0x22, 0x00];

const section = (id: number, ...bytes: number[]) => [id, ...lebBytes(bytes.length), ...bytes];
/** A module with one function of one number. */
function moduleOf(...code: number[]): Uint8Array {
  const body = [0, ...code, ...END];
  return Uint8Array.from([
    ...[0x00, 0x61, 0x73, 0x6d, 1, 0, 0, 0],
    ...section(1, 1, 0x60, 1, 0x7f, 0),
    ...section(3, 1, 0),
    ...section(7, 1, 1, 'f'.charCodeAt(0), 0, 0),
    ...section(10, 1, ...lebBytes(body.length), ...body),
  ]);
}

/** The cycles that a call takes. */
async function cycles(code: number[], argument: number, budget = 1e6): Promise<number> {
  // Bytes in memory of their own.
  const made = metered(moduleOf(...code), COSTS) as BufferSource;
  const { instance } = await WebAssembly.instantiate(made, {});
  // Both are exported, by the module above and by the meter.
  const take = instance.exports[TAKE_CYCLES] as (budget: number) => number;
  const call = instance.exports['f'] as (argument: number) => void;
  take(budget);
  call(argument);
  const left = take(budget);
  expect(take(0)).toBe(budget);
  return budget - left;
}

const TEN = 10 * COSTS.multiply;

describe('an image is charged for what it does', () => {
  it('a branch that is not taken costs nothing, on either side of an else', async () => {
    const code = [...GET, ...IF, ...work(10), ...ELSE, ...work(30), ...END];
    const [taken, other] = [await cycles(code, 1), await cycles(code, 0)];
    expect(other - taken).toBe(2 * TEN + 20 * COSTS.plain);
    expect(taken).toBeLessThan(2 * TEN);
  });
  it('nor does what an early way out leaves behind, out of one block or of several', async () => {
    for (const [depth, code] of [
      [0, [...BLOCK, ...GET, ...branchIf(0), ...work(20), ...END]],
      [1, [...BLOCK, ...BLOCK, ...GET, ...branchIf(1), ...END, ...work(20), ...END]],
    ] as const) {
      expect([depth, await cycles([...code], 1)]).toEqual([depth, expect.any(Number)]);
      expect(await cycles([...code], 1)).toBeLessThan(TEN);
      expect(await cycles([...code], 0)).toBeGreaterThan(2 * TEN);
    }
  });
  it('each turn of a loop is charged, and one without an end is ended', async () => {
    const turns = [...LOOP, ...work(5), ...COUNT_DOWN, ...branchIf(0), ...END];
    const one = await cycles(turns, 1);
    expect(await cycles(turns, 11)).toBeGreaterThan(one + 5 * TEN);
    await expect(cycles([...LOOP, 0x0c, 0, ...END], 1)).rejects.toThrow();
  });
});

describe('an image that was compiled before', () => {
  it('is the same module, for the same bytes on the same chips only; code that cannot be read is refused each time', async () => {
    const [one, other] = [moduleOf(...work(1)), moduleOf(...work(2))];
    const first = await compiled(one, COSTS);
    expect(await compiled(one.slice(), COSTS)).toBe(first);
    expect(await compiled(other, COSTS)).not.toBe(first);
    expect(await compiled(one, cycleCosts({ word_bits: 32 }))).not.toBe(first);
    // What was handed over may be overwritten afterwards, as a flash does with what it held.
    const handed = moduleOf(...work(3));
    const third = await compiled(handed, COSTS);
    handed.fill(0);
    expect(await compiled(moduleOf(...work(3)), COSTS)).toBe(third);
    for (let times = 0; times < 2; times += 1)
      await expect(compiled(Uint8Array.of(1, 2, 3), COSTS)).rejects.toThrow();
  });
});
