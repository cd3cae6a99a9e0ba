import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contactWords, nextNet, numberedOn, parseContacts } from '../src/board/contactWords';
import { judgeCard } from '../src/flash/judgeCard';
import { likelySensors } from '../src/heat/likelySensors';
import { relayPid } from '../src/heat/relayPid';
import type { Option } from '../src/kit/kit';
import { inUnitOf } from '../src/settings/carryOver';
import { lineDifferences } from '../src/slicer/lineDifferences';
import { screwTurns } from '../src/plate/screwTurns';
import { gridsEnough } from '../src/calibration/gridsEnough';
import { derive } from '../src/settings/derive';
import { sensorTable } from '../src/proofs/sensorTable';
import { readMachineFile, writeMachineFile } from '../src/formats/machineFile';
import { demoMachine, factsOf, findingsAfter, own } from './fixtures/demo';

const number = (unit: string) => ({ kind: 'number', unit, key: 'k' }) as Option;
const told = (value: number, unit: string) => ({ value, unit }) as Parameters<typeof inUnitOf>[1];

describe('units of a report', () => {
  it.each([
    [340, 'mA', 'A', 0.34],
    [2032, 'steps/in', 'steps/mm', 80],
    [2, 'in', 'mm', 50.8],
    [3, 'in/s', 'mm/s', 76.2],
    [10, 'in/s²', 'mm/s²', 254],
    [392, '°F', '°C', 200],
    [-40, '°F', '°C', -40],
    [473.15, 'K', '°C', 200],
    [1500, 'ms', 's', 1.5],
    [6000, 'mm/min', 'mm/s', 100],
    [7, 'mm', 'mm', 7],
    [7, 'anything', '', 7],
  ])('%d %s are what an option in %s takes', (value, from, to, expected) => {
    expect(inUnitOf(number(to), told(value, from))).toBe(expected);
  });
  it('what cannot be brought together is not guessed', () => {
    expect(inUnitOf(number('mm'), told(1, 's'))).toBeUndefined();
    expect(inUnitOf(number('A'), told(1, 'V'))).toBeUndefined();
    const flag = { kind: 'flag', key: 'k' } as Option;
    expect([0, 1, 2, -1].map((value) => inUnitOf(flag, told(value, '')))).toEqual([false, true, undefined, undefined]); // prettier-ignore
    expect(inUnitOf({ kind: 'choice', key: 'k' } as Option, told(1, ''))).toBeUndefined();
  });
});

describe('PID from a relay', () => {
  // 4 · 50 / (π · 5): the ultimate gain of a swing of ± 5 °C for half the power either way.
  const ku = 200 / (Math.PI * 5);
  it.each([
    ['classic', 0.6, 2, 1 / 8],
    ['some overshoot', 0.33, 2, 1 / 3],
    ['no overshoot', 0.2, 2, 1 / 3],
  ] as const)('%s', (rule, share, integral, ahead) => {
    const found = relayPid({ highC: 205, lowC: 195, periodS: 40, swing: 50, rule });
    expect(found.ku).toBeCloseTo(ku, 9);
    expect(found.tu).toBe(40);
    expect(found.kp).toBeCloseTo(share * ku, 9);
    expect(found.ki).toBeCloseTo((integral * share * ku) / 40, 9);
    expect(found.kd).toBeCloseTo(share * ku * 40 * ahead, 9);
  });
  it('what does not swing has none', () => {
    expect(() => relayPid({ highC: 200, lowC: 200, periodS: 40, swing: 50, rule: 'classic' })).toThrow(/above "lowC", 200/); // prettier-ignore
  });
});

describe('contacts in few words', () => {
  it.each([
    ['5v gnd 10', ['5v', 'gnd', 'sig:p10']],
    ['s40, P7;x', ['sw:p40', 'sig:p7', 'nc']],
    ['20..23', ['sig:p20', 'sig:p21', 'sig:p22', 'sig:p23']],
    ['23-21', ['sig:p23', 'sig:p22', 'sig:p21']],
    ['s1..2', ['sw:p1', 'sw:p2']],
    ['g*3 ?', ['gnd', 'gnd', 'gnd', '?']],
    ['+ vin 3.3v 12v', ['vin', 'vin', '3v3', '12v']],
    ['', []],
  ])('“%s”', (text, nets) => expect(parseContacts(text)).toEqual(nets));
  it.each(['boo', '12x', '1..', '5v5'])('“%s” is no contact, and is named', (word) => {
    expect(() => parseContacts(`gnd ${word}`)).toThrow(`“${word}”`);
  });
  it('a header has at most 80 contacts', () => {
    expect(parseContacts('g*80')).toHaveLength(80);
    expect(() => parseContacts('g*81')).toThrow('81 contacts; a header has at most 80');
  });
  it('three in a row are written as a run, two are not', () => {
    expect(contactWords(['sig:p1', 'sig:p2', 'gnd'])).toBe('1 2 gnd');
    expect(contactWords(['sig:p1', 'sig:p2', 'sig:p3', '5v'])).toBe('1..3 5v');
    expect(contactWords(['sw:p4', 'sw:p5', 'sw:p6', 'sig:p7'])).toBe('s4..6 7');
  });
  it('what is written reads back the same', () => {
    const net = fc.oneof(
      fc.constantFrom('gnd', '5v', '3v3', '12v', 'vin', 'nc', '?'),
      fc.integer({ min: 0, max: 99 }).map((pin) => `sig:p${pin}`),
      fc.integer({ min: 0, max: 99 }).map((pin) => `sw:p${pin}`),
    );
    fc.assert(
      fc.property(fc.array(net, { maxLength: 30 }), (nets) => {
        expect(parseContacts(contactWords(nets))).toEqual(nets);
      }),
    );
  });
  it('the next header goes on where this one ends, each kind of pin by itself', () => {
    expect(numberedOn(['gnd', 'sig:p10', 'sig:p11', 'sw:p3'])).toEqual([
      'gnd',
      'sig:p12',
      'sig:p13',
      'sw:p4',
    ]);
    expect(numberedOn(['gnd', '5v'])).toEqual(['gnd', '5v']);
    expect([nextNet('sig:p9'), nextNet('sw:p9', 3), nextNet('gnd', 3)]).toEqual(['sig:p10', 'sw:p12', 'gnd']);
  });
});

describe('two codes line by line', () => {
  /** How long the longest row of lines is that both have, by trying all. */
  const longest = (one: readonly string[], other: readonly string[]): number => {
    if (one.length === 0 || other.length === 0) return 0;
    const [first, ...rest] = one;
    const without = longest(rest, other);
    const at = other.indexOf(first ?? '');
    return at < 0 ? without : Math.max(without, 1 + longest(rest, other.slice(at + 1)));
  };
  it('what is the same is as much as can be', () => {
    const lines = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 6 });
    fc.assert(
      fc.property(lines, lines, (one, other) => {
        const all = lineDifferences(one.join('\n'), other.join('\n'));
        expect(all.filter(({ is }) => is === 'same')).toHaveLength(longest(one, other));
        expect(all.filter(({ is }) => is !== 'only wanted').map(({ text }) => text)).toEqual(one);
        expect(all.filter(({ is }) => is !== 'only has').map(({ text }) => text)).toEqual(other);
      }),
    );
  });
  it('remarks, empty lines and spaces do not count', () => {
    expect(lineDifferences('  G28   X ; all\r\n\r\n; nothing', 'G28 X')).toEqual([
      { is: 'same', text: 'G28 X' },
    ]);
  });
});

describe('sensors at a rail', () => {
  it('tell nothing: every candidate is as likely, and none is off by anything known', () => {
    const candidates = [
      { id: 'a', r25: 100_000, beta: 3950 },
      { id: 'b', r25: 10_000, beta: 3435 },
    ];
    const { ranked, tied } = likelySensors({ readings: [{ raw: 0, knownC: 25 }], bits: 12, pullupOhms: 4700, candidates }); // prettier-ignore
    expect(ranked.map(({ readsC, errorC }) => [readsC, errorC])).toEqual([[[null], null], [[null], null]]); // prettier-ignore
    expect(tied).toEqual(['a', 'b']);
  });
});

describe('a card for the bootloader', () => {
  const rule = { kind: 'any', extension: 'BIN', ignoresRepeat: true, renames: true } as const;
  const reasons = (names: string[], taken: string[] = [], over: object = {}) =>
    judgeCard(
      { format: 'FAT32', sizeGb: 8, files: names.map((name) => ({ name, imageHash: name })) },
      taken,
      { rule: { ...rule, ...over }, max_card_gb: 32 },
    ).map(({ reason, because }) => `${reason}: ${because}`); // prettier-ignore
  it('wants one file of its ending, short enough, and not seen before', () => {
    expect(reasons(['PLOVER.BIN'])).toEqual([]);
    expect(reasons(['A.TXT'])).toEqual(['no file: no file ending in .BIN in the root of the card']);
    expect(reasons(['A.BIN', 'b.bin', 'C.BIN'])).toEqual(['several files: 3 files end in .BIN; the bootloader wants one']); // prettier-ignore
    expect(reasons(['NINELETTE.BIN'])[0]).toMatch(/^name form: .*longer than 8 letters/);
    expect(reasons(['plover.bin'], ['PLOVER.BIN'])[0]).toMatch(/^name used/);
    expect(reasons(['plover.bin'], ['PLOVER.BIN'], { ignoresRepeat: false })).toEqual([]);
  });
});

describe('screws and grids', () => {
  it('two screws are enough, nine are too many, and names part them', () => {
    const plate = { xs: [0, 100], ys: [0, 100], z: [[0, 0.1], [0, 0.1]], pitchMm: 0.5, reference: 'a' }; // prettier-ignore
    const at = (many: number) => Array.from({ length: many }, (_, nth) => ({ id: String.fromCharCode(97 + nth), x: nth * 10, y: 0 })); // prettier-ignore
    expect(screwTurns({ ...plate, screws: at(2) }).map(({ move }) => move)).toEqual(['leave', 'leave']);
    expect(screwTurns({ ...plate, screws: [{ id: 'a', x: 0, y: 0 }, { id: 'b', x: 100, y: 0 }] })[1]).toMatchObject({ move: 'lower', turns: expect.closeTo(0.2, 6) as number }); // prettier-ignore
    expect(() => screwTurns({ ...plate, screws: at(1) })).toThrow(/screws/);
    expect(() => screwTurns({ ...plate, screws: at(9) })).toThrow(/screws/);
    expect(() => screwTurns({ ...plate, screws: [...at(2), { id: 'a', x: 1, y: 1 }] })).toThrow(/screws/);
  });
  it('what takes longer has more points, and the whole map is the last', () => {
    const lines = (many: number) => Array.from({ length: many }, (_, nth) => nth * 20);
    const map = { xs: lines(5), ys: lines(4), z: lines(4).map(() => lines(5).map((x) => x / 1000)) };
    const grids = gridsEnough(derive(factsOf(demoMachine('plover'))), map);
    expect(grids.map(({ columns, rows }) => [columns, rows])).toEqual([[2, 2], [3, 3], [4, 4], [5, 4]]); // prettier-ignore
    // A plane is missed by nothing, however few its points are.
    expect(grids[0]).toMatchObject({ enough: true, worst: expect.closeTo(0, 9) as number });
    for (const [nth, grid] of grids.entries())
      if (nth > 0) expect(grid.seconds).toBeGreaterThan(grids[nth - 1]?.seconds ?? 0);
  });
});

describe('what the proofs of the sensors saw', () => {
  const facts = factsOf(demoMachine('plover'));
  const seen = (hotend: [string, string[]], bed: [string, string[]]) =>
    sensorTable(facts, [hotend, bed].map(([outcome, evidence], index) => ({ step: ['warm-hotend', 'warm-bed'][index] ?? '', outcome, evidence }))); // prettier-ignore
  const still = 'bed rose 0.1 °C';

  it('is no table while none failed', () => {
    expect(seen(['proven', ['hotend rose 4.0 °C', still]], ['proven', ['bed rose 4.0 °C']])).toBeUndefined();
  });
  it('says that two are exchanged where each moves the other’s reading, and only then', () => {
    const exchanged = seen(['failed', ['hotend rose 0.1 °C', 'bed rose 5.0 °C']], ['failed', ['hotend rose 5.0 °C', still]]); // prettier-ignore
    expect(exchanged?.says).toMatch(
      /^Warmed, the hot end moves the reading of the bed, and the other way round/,
    );
    const dead = seen(['failed', ['hotend rose 0.1 °C', still]], ['proven', ['bed rose 4.0 °C']]);
    expect(dead?.says).toBeUndefined();
    expect(dead?.rows[0]?.rises).toEqual([
      { body: 'hotend', rise: 0.1, moved: false, own: true },
      { body: 'bed', rise: 0.1, moved: false, own: false },
    ]);
    expect(dead?.rows[1]?.rises.at(1)).toEqual({ body: 'bed', rise: 4, moved: true, own: true });
  });
});

it('a number in quotes is no number', () => {
  const text = writeMachineFile(demoMachine('plover')).replace('volts_v: 24', 'volts_v: "24"');
  expect(readMachineFile(text)).toMatchObject({ problems: [{ path: 'supply.volts_v', message: expect.stringMatching(/must be a number/) }] }); // prettier-ignore
});

it('a map that misses the centre gets one line more wherever their count is even', () => {
  const offered = (columns: number, rows: number) => findingsAfter('plover', own('map.columns', columns), own('map.rows', rows)).find(({ id }) => id === 'map.no-centre')?.remedies.map(({ label, edits }) => [label, edits.length]); // prettier-ignore
  expect(offered(4, 6)).toEqual([['Columns: 5, Rows: 7', 2]]);
  expect(offered(5, 6)).toEqual([['Rows: 7', 1]]);
  expect(offered(5, 5)).toBeUndefined();
});
