import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { identifyBoard, prepareBoards, type Seen } from '../src/board/identifyBoard';
import { markText, misread } from '../src/board/markText';
import { installed } from './fixtures/demo';

const { boards, chips } = installed.catalogue;
const prepared = prepareBoards(boards, chips);
const look = (seen: Seen) => identifyBoard(seen, prepared);
const names = (seen: Seen, count = 2) =>
  look(seen).ranked.slice(0, count).map(({ board }) => `${board.id} ${board.revision}`); // prettier-ignore

describe('which board is this', () => {
  it.each([['FENWICK F8'], ['fenw1ck f8'], ['FENWlCK FB'], ['FENW?CK ?8'], ['NWICK F']])(
    'reads %s on a worn board, and still doubts between the two revisions',
    (print) => {
      expect(names({ print }).sort()).toEqual(['fenwick-f8 1', 'fenwick-f8 2']);
      expect(look({ print }).decided).toBeUndefined();
      expect(look({ print }).next).toMatchObject({ feature: 'chip' });
    },
  );
  it('the chip’s marking decides between revisions that look alike', () => {
    expect(look({ print: 'fenwick', chip: 'Flint-B' }).decided).toMatchObject({ revision: '2' });
    expect(look({ print: 'fenwick', chip: 'flint-a 7n' }).decided).toMatchObject({ revision: '1' });
  });
  it('where the marking is gone, the one resistor that differs is asked for, and decides', () => {
    const worn = look({ print: 'fenwick f8', chip: 'flint-?' });
    expect(worn.next!.feature).toBe('fenwick-f8/r7');
    expect(worn.next!.places.map(({ board }) => board.revision).sort()).toEqual(['1', '2']);
    const answered = {
      print: 'fenwick f8',
      chip: 'flint-?',
      tells: { 'fenwick-f8/r7': 'the place is empty' },
    };
    expect(look(answered).decided).toMatchObject({ revision: '1' });
  });
  it('revisions that differ only in a pull-up are told apart by it', () => {
    const seen: Seen = { print: 'harrow h6', chip: 'mica-e' };
    expect(look(seen).next!.feature).toBe('harrow-h6/r31');
    expect(look({ ...seen, tells: { 'harrow-h6/r31': 'is there' } }).decided).toMatchObject({
      revision: 'B',
    });
  });
  it.each([
    ['a print like no other', { print: 'WILDCAT 9000' }],
    ['a chip of which nobody heard', { chip: 'NOSUCH 88' }],
    ['what can be counted, of no known board', { sockets: 9, terminals: 11 }],
  ])('a board that nobody described is none of them: %s', (_, seen) => {
    const { none, ranked, decided } = look(seen);
    expect(decided).toBeUndefined();
    expect(none).toBeGreaterThan(ranked[0]!.share);
  });
  it.each([['ALDER A32 rev 1.2'], ['ALDER A33 V1.1']])('one wrong letter, %s, leaves a known board likelier than none, and is not certain', (print) => {
    const { none, ranked, decided } = look({ print });
    expect(ranked[0]!.share).toBeGreaterThan(none);
    expect(none).toBeGreaterThan(0.05);
    expect(decided).toBeUndefined();
  }); // prettier-ignore
  it.each([['ALDER A32 V1.1'], ['alder a32 1.1'], ['ALDERA32V1.1'], ['Alder A32, Rev. 1.1']])('%s is the print of one', (print) => {
    expect(look({ print }).decided).toMatchObject({ id: 'alder-a32', revision: '1.1' });
  }); // prettier-ignore
  it('what it knows for certain has nothing against it', () => {
    expect(look({ print: 'ALDER A32 rev 1.1', chip: 'Mica-C' })).toMatchObject({ decided: { id: 'alder-a32', revision: '1.1' } }); // prettier-ignore
  });
  it('says for each candidate what fits and what does not', () => {
    const { ranked } = look({ print: 'alder', sockets: 6 });
    const alder = ranked.find(({ board }) => board.id === 'alder-a32')!;
    expect(alder.for.join()).toContain('can be read so');
    expect(alder.against.join()).toContain('4 driver places, not 6');
  });
  it('with nothing seen, all are as likely and the most telling thing is asked for first', () => {
    const { ranked, next, decided } = look({});
    expect(new Set(ranked.map((entry) => entry.share.toFixed(6))).size).toBe(1);
    expect(decided).toBeUndefined();
    expect(next!.feature).toBe('print');
    expect(next!.bits).toBeLessThanOrEqual(Math.log2(boards.length) + 1e-9);
  });
  it('never asks for what was seen, and shares add up to one, whatever is typed', () => {
    fc.assert(
      fc.property(
        fc.record(
          {
            print: fc.string({ maxLength: 30 }),
            chip: fc.string({ maxLength: 12 }),
            sockets: fc.nat({ max: 12 }),
            terminals: fc.nat({ max: 9 }),
            drivers: fc.constantFrom('plugged in' as const, 'soldered' as const),
          },
          { requiredKeys: [] },
        ),
        (seen) => {
          const { ranked, none, next, decided } = look(seen);
          expect(ranked.reduce((sum, entry) => sum + entry.share, none)).toBeCloseTo(1, 6);
          if (decided) expect(ranked[0]!.against).toEqual([]);
          if (next && next.feature in seen) expect(['print', 'chip']).toContain(next.feature);
        },
      ),
    );
  });
  it('letters that look alike are the same letter', () => {
    expect(markText('Ol1I-o0')).toBe(markText('0111 00'));
    expect(misread(markText('F?'), markText('F8'))).toBeLessThan(misread(markText('FX'), markText('F8')));
  });
});
