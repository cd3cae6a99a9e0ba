import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contactsOf } from '../src/board/contacts';
import { pinTable } from '../src/circuit/pinTable';
import { cheapestBefore, foundBefore } from '../src/harness/lastCases';
import { findHarness } from '../src/harness/findHarness';
import { cheapestFree } from '../src/harness/rankLandings';
import { wiringCase, type WiringCase } from '../src/harness/wiringCase';
import { certain } from '../src/tree/certain';
import { oncePer } from '../src/tree/oncePer';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { randomWiring } from './fixtures/wiringCases';

describe('what is computed once for each object', () => {
  it('is computed at the first asking alone, also where it comes to nothing', () => {
    const asked: object[] = [];
    const nothing = oncePer((of: object) => {
      asked.push(of);
      return undefined;
    });
    const [one, other] = [{}, {}];
    for (const each of [one, other, one, other]) expect(nothing(each)).toBeUndefined();
    expect(asked).toEqual([one, other]);
  });
  it('is another for facts that were changed, whatever was asked before', () => {
    const plover = demoMachine('plover');
    const before = pinTable(factsOf(plover));
    const own = { ...plover, pins: { 'x-switch': { pin: 3, because: 'the old one is burnt' } } };
    const now = pinTable(factsOf(own));
    const row = (table: typeof now) => table.switches.find(({ name }) => name === 'PIN_X_SWITCH');
    expect(row(now)).toMatchObject({ pin: 3, computed: row(before)?.pin, because: 'the old one is burnt' });
    expect(pinTable(factsOf(plover))).toEqual(before);
  });
});

describe('harnesses of the last few cases', () => {
  const plover = demoMachine('plover');
  const wiring = certain(wiringCase(plover, installed.catalogue, factsOf(plover).board), 'a case');
  const told = {};

  it('are what a search would find, in whatever order cases come', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 1, maxLength: 12 }), (seeds) => {
        for (const seed of seeds) {
          const each = randomWiring(seed, { parts: 5, headers: 1.2 });
          const part = certain(each.parts[0], 'a part').id;
          expect(foundBefore(each, {})).toEqual(findHarness(each, {}));
          expect(cheapestBefore(each, { harness: {}, part })).toEqual(cheapestFree(each, {}, part));
        }
      }),
      { numRuns: 15, seed: 3 },
    );
  });
  it('are kept for the same parts', () => {
    expect(foundBefore({ ...wiring, parts: [...wiring.parts] }, told)).toBe(foundBefore(wiring, told));
  });
  it('are searched anew for a part that was edited and keeps its name', () => {
    const fan = certain(
      wiring.parts.find(({ type }) => type.kind === 'fan'),
      'a fan',
    );
    const harness = plover.harness;
    const place = (from: WiringCase) => cheapestBefore(from, { harness, part: fan.id });
    expect(place(wiring)).toBeDefined();
    const edited = { ...fan, type: { ...fan.type, supply_v: 230 } };
    const parts = wiring.parts.map((part) => (part === fan ? edited : part));
    expect(place({ ...wiring, parts })).toBeUndefined();
  });
  it('are searched anew for a chip that was edited and keeps its name', () => {
    const chip = { ...wiring.chip, pin_groups: [] };
    const found = foundBefore({ ...wiring, chip }, told);
    expect(found).not.toEqual(foundBefore(wiring, told));
  });
});

describe('contacts of a board', () => {
  it('are read anew from a board that was edited and keeps its name', () => {
    const { board } = factsOf(demoMachine('plover'));
    const [first] = board.headers;
    const renamed = { ...board, headers: [{ ...certain(first, 'a header'), id: 'ELSEWHERE' }] };
    expect([...contactsOf(renamed).keys()].every((name) => name.startsWith('ELSEWHERE.'))).toBe(true);
    expect(contactsOf(board)).toBe(contactsOf(board));
  });
});
