import { describe, expect, it } from 'vitest';
import { bootloaderEnds, flashMemory } from '../src/index';
import { sold, withLoader } from './fixtures/soldBoards';
import { probeDialog, probeListener } from '../src/flashing/probeTalk';
import { serialDialog, serialListener } from '../src/flashing/serialTalk';
import { type Dialog, hexOf, type Listener, type Talk } from '../src/flashing/talk';
import { updateDialog, updateListener } from '../src/flashing/updateClassTalk';
import { wireDialog, wireListener } from '../src/flashing/wireTalk';

const a32 = sold('alder-a32');
const ends = bootloaderEnds(a32.board);
const PAGE = Uint8Array.of(0x12, 0x34, 0x56, 0x78, 0x9a);

/** Every byte that passes while a tool does one thing, and what it came to. */
function heardOf<T>(talk: Talk<T>, listener: Listener): { lines: string[]; came: T } {
  const lines: string[] = [];
  for (let step = talk.next(); ;) {
    if (step.done) return { lines, came: step.value };
    const { send, want, busyMs = 0 } = step.value;
    const heard = [...send].flatMap((byte) => [...listener.hear(byte)]);
    lines.push(`> ${hexOf(send)}${busyMs > 0 ? ` and ${busyMs} ms` : ''}`);
    if (want > 0) lines.push(`< ${hexOf(heard)}`);
    step = talk.next(want > 0 && heard.length === 0 ? undefined : Uint8Array.from(heard));
  }
}

/** One of everything that a tool does by a protocol, as bytes. */
function passedBy(dialog: Dialog, listenerOf: (memory: ReturnType<typeof flashMemory>) => Listener): string {
  const memory = flashMemory(withLoader(a32), a32);
  const listener = listenerOf(memory);
  const at = ends + memory.pageBytes;
  const does: [string, Talk<unknown> | undefined][] = [
    ['call', dialog.call()],
    ['unlock', dialog.setLocked?.(false)],
    ['erase', dialog.erase?.(at)],
    ['write', dialog.write(at, PAGE)],
    ['read', dialog.read?.(at, 7)],
    ['write beyond', dialog.write(ends + a32.chip.flash_bytes, PAGE)],
    ['lock', dialog.setLocked?.(true)],
    ['leave', dialog.leave()],
  ];
  return does
    .flatMap(([name, talk]) => {
      if (!talk) return [`${name}: not by these wires`];
      const { lines, came } = heardOf(talk, listener);
      return [name, ...lines, `= ${came instanceof Uint8Array ? hexOf(came) : String(came)}`];
    })
    .join('\n');
}

describe('the bytes of a protocol are what they were before (vitest -u writes them anew; read what has changed)', () => {
  it('of a serial bootloader', () => {
    expect(passedBy(serialDialog(), serialListener)).toMatchSnapshot();
  });
  it('of six wires', () => {
    expect(passedBy(wireDialog(), wireListener)).toMatchSnapshot();
  });
  it('of three wires', () => {
    expect(passedBy(probeDialog(), probeListener)).toMatchSnapshot();
  });
  it('of USB’s class for firmware', () => {
    const { pageBytes } = flashMemory(withLoader(a32), a32);
    expect(passedBy(updateDialog(ends, pageBytes), updateListener)).toMatchSnapshot();
  });
});

// Device Firmware Upgrade 1.1: requests 1 DNLOAD, 2 UPLOAD, 3 GETSTATUS, 4 CLRSTATUS; states 2 idle, 5 download idle, 10 error.
it('USB’s class for firmware speaks by its standard', () => {
  const memory = flashMemory(withLoader(a32), a32);
  const listener = updateListener(memory);
  const asks = (...bytes: number[]) => bytes.flatMap((byte) => [...listener.hear(byte)]);
  const status = () => asks(0xa1, 3, 0, 0, 0, 0, 6, 0);
  expect(status()[4]).toBe(2);
  asks(0x21, 1, 2, 0, 0, 0, 1, 0, 0x5a);
  expect(status()).toEqual([0, 0, 0, 0, 5, 0]);
  expect(asks(0xa1, 2, 2, 0, 0, 0, 2, 0)).toEqual([0x5a, 0xff]);
  // A block far beyond the flash.
  asks(0x21, 1, 0xff, 0xff, 0, 0, 1, 0, 0x5a);
  expect(status()).toEqual([8, 0, 0, 0, 10, 0]);
  asks(0x21, 4, 0, 0, 0, 0, 0, 0);
  expect(status()).toEqual([0, 0, 0, 0, 2, 0]);
});
