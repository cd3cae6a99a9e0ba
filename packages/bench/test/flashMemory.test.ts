import { createHash } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { type BoardState, bootloaderEnds, flashing, flashMemory } from '../src/index';
import { imageFor, routed, sold, withLoader } from './fixtures/soldBoards';

const f8 = sold('fenwick-f8');
/** Bytes that look like nothing, the same each time. */
const noise = (length: number, from = 1) => Uint8Array.from({ length }, (_, at) => (Math.imul(at + from, 2654435761) >>> 13) & 0xff); // prettier-ignore
const sumOf = (bytes: Uint8Array | null | undefined) =>
  bytes ? `${bytes.length} bytes ${createHash('sha256').update(bytes).digest('hex').slice(0, 8)}` : 'nothing'; // prettier-ignore

describe('what passes over the wires is what it was before (vitest -u writes it anew; read what has changed)', () => {
  it.each(routed)('%s', (_name, of, route) => {
    const most = of.chip.flash_bytes - 200;
    let state: BoardState = { ...withLoader(of), image: imageFor(of, noise(most, 7)) };
    const told: string[] = [];
    for (const [does, bytes] of [
      ['try', 10],
      ['write', most],
      ['write', 1],
      ['write', 1000],
    ] as const) {
      const job = {
        route,
        does,
        name: 'test.bin',
        bytes: imageFor(of, noise(bytes, 3)),
        at: route.load_address,
      };
      const memory = flashMemory(state, of);
      const going = flashing(job, memory, { sold: of, loader: true, portHeld: false, toolFails: false, wiresExchanged: false }); // prettier-ignore
      const phases: string[] = [];
      let step = going.next();
      for (; !step.done; step = going.next()) {
        const { phase, done, total, atS } = step.value;
        const line = `${phase} of ${total}`;
        if (phases.at(-1)?.startsWith(line)) phases.pop();
        phases.push(`${line}: ${done} after ${atS.toFixed(6)} s`);
      }
      state = { ...state, ...memory.left(job) };
      told.push(`${does} ${job.bytes.length}`, ...phases, JSON.stringify(step.value));
      told.push(
        `${memory.written()} pages, image ${sumOf(state.image)}, bootloader ${sumOf(state.bootloader)}`,
      );
    }
    expect(told.join('\n')).toMatchSnapshot();
  });
});

describe('flash', () => {
  const ends = bootloaderEnds(f8.board);
  const page = f8.chip.programming!.page_bytes;
  const end = ends + f8.chip.flash_bytes;
  const filled = () => flashMemory({ ...withLoader(f8), image: noise(f8.chip.flash_bytes) }, f8);

  it('is erased page by page, whichever byte of the page is named, and nothing beside it', () => {
    const memory = filled();
    const before = memory.read(ends, 3 * page);
    expect(memory.erase(ends + page + 5)).toBe(true);
    expect(memory.read(ends + page, page).every((byte) => byte === 0xff)).toBe(true);
    expect(memory.read(ends, page)).toEqual(before.subarray(0, page));
    expect(memory.read(ends + 2 * page, page)).toEqual(before.subarray(2 * page));
    expect(memory.written()).toBe(0);
  });
  it('only loses bits by writing: what was not erased is not what was sent', () => {
    const memory = filled();
    const [was] = memory.read(ends, 1);
    expect(memory.write(ends, Uint8Array.of(0xa5))).toBe(true);
    expect(memory.read(ends, 1)).toEqual(Uint8Array.of(was! & 0xa5));
    expect(memory.written()).toBe(1);
  });
  it('ends where it ends', () => {
    const memory = filled();
    expect([memory.write(end - 2, Uint8Array.of(1, 2)), memory.write(end - 1, Uint8Array.of(1, 2)), memory.write(-1, Uint8Array.of(1))]).toEqual([true, false, false]); // prettier-ignore
    expect([memory.erase(end - 1), memory.erase(end), memory.erase(-1)]).toEqual([true, false, false]);
    expect(memory.read(end - 1, 5)).toHaveLength(1);
  });
  it('keeps the bootloader while it is locked, to its last byte', () => {
    const memory = filled();
    memory.setLocked(true);
    expect([memory.erase(ends - 1), memory.write(ends - 1, Uint8Array.of(0))]).toEqual([false, false]);
    expect([memory.erase(ends), memory.write(ends, Uint8Array.of(0))]).toEqual([true, true]);
    memory.setLocked(false);
    expect(memory.write(ends - 1, Uint8Array.of(0))).toBe(true);
  });
});
