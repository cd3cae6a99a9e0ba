import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { Board } from '@jolly/core/board/board';
import type { Chip } from '@jolly/core/board/chip';
import { makeImage } from '@jolly/core/image/imageHeader';
import { readCatalogue } from '@jolly/core/formats/catalogueFiles';
import { describe, expect, it } from 'vitest';
import { blankBoard, bootable, type Card, powerOnWithCard } from '../src/index';
import { heatedBody } from '../src/plant/heatedBody';

const read = (path: string) => ({
  path,
  text: readFileSync(join(import.meta.dirname, '../../../catalogue', path), 'utf8'),
});
const { catalogue } = readCatalogue(
  ['boards/alder-a32.yaml', 'boards/harrow-h6.yaml', 'boards/sedge-s4.yaml', 'chips/chips.yaml'].map(read),
);
const board = (id: string): Board => catalogue.boards.find((entry) => entry.id === id)!;
const chipOf = (of: Board): Chip => catalogue.chips.find((entry) => entry.id === of.chip)!;
const alder = board('alder-a32');
const chip = chipOf(alder);

function imageFor(
  of: Board,
  codeBytes = 100,
  changes: { target?: string; loadAddress?: number } = {},
): Uint8Array {
  const route = of.routes[0];
  return makeImage(
    {
      kitVersion: '0.1.0',
      target: route.target,
      loadAddress: route.load_address,
      buildId: '00000000',
      name: 'Test',
      ...changes,
    },
    new Uint8Array(codeBytes),
  );
}
const card = (name: string, bytes: Uint8Array, changes: Partial<Card> = {}): Card => ({
  format: 'FAT32',
  sizeGb: 8,
  files: [{ name, bytes }],
  ...changes,
});
const inserted = (given: Card | null, state = blankBoard(chip), of = alder) =>
  powerOnWithCard(state, given, of, chipOf(of));

describe('the card route', () => {
  it('takes a good image, renames the file, and boots it', () => {
    const { state, card: left, outcome } = inserted(card('PLOV1124.BIN', imageFor(alder)));
    expect(outcome).toEqual({ taken: true, name: 'PLOV1124.BIN', renamedTo: 'PLOV1124.OLD' });
    expect(left?.files[0]?.name).toBe('PLOV1124.OLD');
    expect(bootable(state, alder)).toHaveProperty('code');
  });
  it('leaves the name where the board does not rename', () => {
    const sedge = board('sedge-s4');
    const { outcome, card: left } = inserted(
      card('SEDGE.BIN', imageFor(sedge)),
      blankBoard(chipOf(sedge)),
      sedge,
    );
    expect(outcome).toEqual({ taken: true, name: 'SEDGE.BIN' });
    expect(left?.files[0]?.name).toBe('SEDGE.BIN');
  });
  it.each([
    ['no card', null],
    ['card format', card('A.BIN', imageFor(alder), { format: 'exFAT' })],
    ['card size', card('A.BIN', imageFor(alder), { sizeGb: 64 })],
    ['no file', card('A.TXT', imageFor(alder))],
    [
      'several files',
      {
        ...card('A.BIN', imageFor(alder)),
        files: [
          { name: 'A.BIN', bytes: imageFor(alder) },
          { name: 'B.BIN', bytes: imageFor(alder) },
        ],
      },
    ],
    ['name form', card('A-LONG-NAME.BIN', imageFor(alder))],
    ['no header', card('A.BIN', new Uint8Array(500))],
    ['damaged', card('A.BIN', imageFor(alder).slice(0, -1))],
    ['other target', card('A.BIN', imageFor(alder, 100, { target: 'harrow-h6-a' }))],
    ['other address', card('A.BIN', imageFor(alder, 100, { loadAddress: 0 }))],
    ['too large', card('A.BIN', imageFor(alder, chip.flash_bytes))],
  ] as [string, Card | null][])('leaves the board as it was: %s', (reason, given) => {
    const before = { ...blankBoard(chip), image: imageFor(alder) };
    const { state, outcome, card: left } = inserted(given, before);
    expect(outcome).toMatchObject({ taken: false, reason });
    expect(state).toBe(before);
    expect(left).toBe(given);
  });
  it('ignores a name it took before, in any case, where the board does that', () => {
    const { state } = inserted(card('ONE.BIN', imageFor(alder)));
    expect(inserted(card('one.bin', imageFor(alder)), state).outcome).toMatchObject({ reason: 'name used' });
    expect(inserted(card('TWO.BIN', imageFor(alder)), state).outcome.taken).toBe(true);
    const harrow = board('harrow-h6');
    const again = { ...blankBoard(chipOf(harrow)), namesTaken: ['HARROW.IMG'] };
    expect(inserted(card('HARROW.IMG', imageFor(harrow)), again, harrow).outcome.taken).toBe(true);
  });
  it('never lets random bytes run', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), (bytes) => {
        const { state, outcome } = inserted(card('A.BIN', bytes));
        expect(outcome.taken).toBe(false);
        expect(bootable(state, alder)).toHaveProperty('silent');
      }),
    );
  });
});

describe('a heated body', () => {
  const body = { gain_c: 300, tau_s: 150, dead_s: 4 };
  it('stays cold during the dead time, then climbs to its gain', () => {
    const heat = heatedBody(body, 1, 20);
    heat.setDuty(0, 1);
    expect(heat.temperatureC(4)).toBe(20);
    // One time constant after the dead time: 1 − 1/e of the gain.
    expect(heat.temperatureC(154)).toBeCloseTo(20 + 300 * (1 - Math.exp(-1)), 6);
    expect(heat.temperatureC(4000)).toBeCloseTo(320, 3);
  });
  it('gives four times the heat on twice the voltage', () => {
    const heat = heatedBody(body, 4, 20);
    heat.setDuty(0, 1);
    expect(heat.temperatureC(10_000)).toBeCloseTo(1220, 1);
  });
  it('does not care how often it is looked at', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            after: fc.double({ min: 0.01, max: 30, noNaN: true }),
            duty: fc.double({ min: 0, max: 1, noNaN: true }),
          }),
          { maxLength: 20 },
        ),
        (changes) => {
          const rarely = heatedBody(body, 1, 20);
          const often = heatedBody(body, 1, 20);
          let now = 0;
          for (const { after, duty } of changes) {
            rarely.setDuty(now, duty);
            often.setDuty(now, duty);
            for (let part = 1; part <= 7; part += 1) often.temperatureC(now + (after * part) / 7);
            now += after;
          }
          expect(often.temperatureC(now)).toBeCloseTo(rarely.temperatureC(now), 6);
        },
      ),
    );
  });
});
