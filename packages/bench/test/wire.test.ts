import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Wire } from '../src/board/wire';

/** A receiver holds so many bytes, see wire.ts. */
const HOLDS = 4096;
const BAUD = 115200;
const BYTE_NS = 1e10 / BAUD;

const bytesOf = (text: string) => Array.from({ length: text.length }, (_, at) => text.charCodeAt(at) & 0xff);

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
    const sendings = fc.array(fc.oneof(fc.string({ maxLength: 120 }), fc.uint8Array({ maxLength: 300 })), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(sendings, fc.integer({ min: 1, max: 64 }), (all, room) => {
        const { wire, read } = lineOf();
        const sent: number[] = [];
        for (const one of all) {
          if (typeof one === 'string') wire.hostSendsLine(one, BAUD, 0);
          else wire.hostSends(one, BAUD, 0);
          sent.push(...(typeof one === 'string' ? bytesOf(`${one}\n`) : one));
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
});
