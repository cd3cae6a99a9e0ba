import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Wire } from '../src/board/wire';

/** A receiver holds so many bytes, see wire.ts. */
const HOLDS = 4096;
const BAUD = 115200;
const BYTE_NS = 1e10 / BAUD;

function lineOf() {
  const wire = new Wire(() => undefined);
  wire.open(BAUD);
  /** What the chip's memory gets, in reads of so many bytes. */
  const read = (room: number) => {
    const memory = new Uint8Array(room);
    const got: number[] = [];
    for (let count = wire.read(memory, 0, room); count > 0; count = wire.read(memory, 0, room))
      got.push(...memory.subarray(0, count));
    return got;
  };
  return { wire, read };
}

describe('the serial line', () => {
  it('brings every byte in its order and at its time, however it is sent, and however it is read', () => {
    const sendings = fc.array(
      fc.oneof(fc.string({ maxLength: 120, unit: 'grapheme' }), fc.uint8Array({ maxLength: 300 })),
      {
        minLength: 1,
        maxLength: 12,
      },
    );
    fc.assert(
      fc.property(sendings, fc.integer({ min: 1, max: 64 }), (all, room) => {
        const { wire, read } = lineOf();
        const sent: number[] = [];
        for (const one of all) {
          if (typeof one === 'string') wire.hostSendsLine(one, BAUD, 0);
          else wire.hostSends(one, BAUD, 0);
          sent.push(...(typeof one === 'string' ? new TextEncoder().encode(`${one}\n`) : one));
        }
        const got: number[] = [];
        for (let at = wire.nextCall(); at < Infinity; at = wire.nextCall()) {
          wire.arrive(at);
          got.push(...read(room));
          expect(at).toBeCloseTo(got.length * BYTE_NS, 3);
        }
        expect(got).toEqual(sent);
      }),
    );
  });
  it('loses what comes while nobody reads, and nothing of what comes after', () => {
    const { wire, read } = lineOf();
    const many = Uint8Array.from({ length: HOLDS + 1000 }, (_, at) => at & 0xff);
    wire.hostSends(many, BAUD, 0);
    wire.hostSendsLine('G28', BAUD, 0);
    while (wire.nextCall() <= many.length * BYTE_NS) wire.arrive(wire.nextCall());
    expect(read(32)).toEqual([...many.subarray(0, HOLDS)]);
    wire.arrive(wire.nextCall());
    expect(String.fromCharCode(...read(32))).toBe('G28\n');
  });

  it('calls the chip when 32 bytes lie there, when a line ends, and when what was sent ends', () => {
    const { wire } = lineOf();
    wire.hostSends(
      Uint8Array.from({ length: 50 }, (_, at) => (at === 39 ? 10 : 65)),
      BAUD,
      0,
    );
    const calls: number[] = [];
    for (let at = wire.nextCall(); at < Infinity; at = wire.nextCall()) {
      calls.push(Math.round(at / BYTE_NS));
      wire.arrive(at);
    }
    expect(calls).toEqual([32, 40, 50]);
  });
  it('takes 64 bytes from the chip before the first is sent, and one more for each that is', () => {
    const heard: number[] = [];
    const wire = new Wire((_, at) => heard.push(at / BYTE_NS));
    expect(wire.room(0)).toBe(0);
    wire.open(BAUD);
    expect(wire.room(0)).toBe(64);
    for (let count = 0; count < 70; count += 1) wire.write(65, 0);
    expect(wire.room(0)).toBe(0);
    expect(wire.room(7.5 * BYTE_NS)).toBe(1);
    expect(wire.room(100 * BYTE_NS)).toBe(64);
    expect(heard.map(Math.round)).toEqual(Array.from({ length: 70 }, (_, at) => at + 1));
    // Another speed: a byte takes as long as ten bits of it.
    wire.open(9600);
    wire.write(65, 100 * BYTE_NS);
    expect(heard.at(-1)).toBeCloseTo(112, 6);
  });
  it('one that sends again while its bytes are on their way waits for them', () => {
    const { wire, read } = lineOf();
    wire.hostSendsLine('M105', BAUD, 0);
    wire.hostSendsLine('M114', BAUD, 2 * BYTE_NS);
    wire.arrive(wire.nextCall());
    expect(wire.nextCall()).toBeCloseTo(10 * BYTE_NS, 3);
    wire.arrive(10 * BYTE_NS);
    wire.hostSendsLine('G28', BAUD, 50 * BYTE_NS);
    expect(wire.nextCall()).toBeCloseTo(54 * BYTE_NS, 3);
    expect(String.fromCharCode(...read(64))).toBe('M105\nM114\n');
    expect(wire.baud()).toBe(BAUD);
  });
});
