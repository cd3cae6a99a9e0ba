import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Board } from '../src/board/board';
import { type FlashRoute, isWired, needsBootloader, WIRES_OF, type WiredRoute } from '../src/board/route';
import { withoutBootloader } from '../src/board/withoutBootloader';
import { chipOf } from '../src/catalogue/catalogue';
import { readBoardFile, writeBoardFile } from '../src/formats/boardFile';
import { boardProblems } from '../src/formats/boardRules';
import { afterwards } from '../src/flash/afterwards';
import { boardInRecord, bootloaderKnown, type FlashRecord } from '../src/flash/bootloaderKnown';
import type { CardOutcome } from '../src/flash/cardOutcome';
import { canFlash, chooseRoute } from '../src/flash/chooseRoute';
import { outcomeWords } from '../src/flash/outcomeWords';
import { guessMeaning, judgeReadyMade, type Meanings, nameParts } from '../src/flash/readyMade';
import { routeWords } from '../src/flash/routeWords';
import { savedAs } from '../src/flash/savedAs';
import { toolSteps } from '../src/flash/toolSteps';
import { programmerWiring, turned } from '../src/flash/wiring';
import { resolve } from '../src/machine/facts';
import { certain } from '../src/tree/certain';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const { catalogue } = plover;
const chip = (board: Board) => certain(chipOf(catalogue, board), 'its chip');
const routes = catalogue.boards.flatMap((board) =>
  board.routes.map((route): [string, Board, FlashRoute] => [`${board.id} ${board.revision} by ${route.kind}`, board, route]),
); // prettier-ignore

describe('the routes of every board', () => {
  it.each(routes)('%s: words, steps and trouble are whole', (_name, board, route) => {
    const words = routeWords(route, board, chip(board));
    expect(words.trouble.length).toBeGreaterThan(0);
    const all = [words.title, words.takeIt, words.power, ...words.costs, ...words.trouble.flatMap(({ sees, because, out }) => [sees, because, out])];
    for (const text of all) expect(text).not.toMatch(/undefined|null|NaN|\[object/);
    for (const { act } of toolSteps(route, board, chip(board), 'build 1234')) expect(act).not.toMatch(/undefined|\[object/);
  }); // prettier-ignore
  it('each board names one route to take; without a bootloader it is one that needs none', () => {
    for (const board of catalogue.boards) {
      expect(boardProblems(board, catalogue.chips)).toEqual([]);
      const known = chooseRoute(board, { is: 'unknown', because: '' });
      expect(canFlash(known.route)).toBe(true);
      const absent = chooseRoute(board, { is: 'absent', because: 'it was erased' });
      expect(needsBootloader(absent.route)).toBe(false);
      expect(absent.because).toContain('it was erased');
    }
  });
  it('a machine that does without a bootloader has more room and only routes that need none', () => {
    for (const board of catalogue.boards) {
      const without = certain(withoutBootloader({ board, chip: chip(board) }), 'a board without one');
      expect(without.chip.flash_bytes).toBe(chip(board).flash_bytes + board.routes[0].load_address);
      for (const route of without.board.routes) expect([needsBootloader(route), route.load_address]).toEqual([false, 0]); // prettier-ignore
    }
    const machine = { ...plover.machine, board: { ...plover.machine.board, bootloader: false as const } };
    const found = resolve(machine, catalogue);
    expect('facts' in found && found.facts.board.routes[0].load_address).toBe(0);
    const cardOnly = catalogue.boards.map((board) => ({
      ...board,
      routes: [board.routes[0]] as Board['routes'],
    }));
    const refused = resolve(machine, { ...catalogue, boards: cardOnly });
    expect('problems' in refused && refused.problems[0]).toMatchObject({ path: 'board.bootloader' });
  });
  it('a board file with routes apart, a route twice or pads amiss is refused by its place', () => {
    const alder = plover.board;
    const amiss = (change: (all: FlashRoute[]) => FlashRoute[]) => {
      const read = readBoardFile(writeBoardFile({ ...alder, routes: change([...alder.routes]) as Board['routes'] }), catalogue); // prettier-ignore
      return 'problems' in read ? read.problems.map(({ path, message }) => `${path}: ${message}`).join('; ') : 'fine'; // prettier-ignore
    };
    expect(amiss((all) => all)).toBe('fine');
    expect(amiss((all) => all.map((route, at) => (at === 1 ? { ...route, load_address: 0 } : route)))).toContain('routes.1'); // prettier-ignore
    expect(amiss((all) => [...all, ...all.slice(-1)])).toContain(
      'there is a route by update-class before it',
    );
    const pads = (change: object) => (all: FlashRoute[]) =>
      all.map((route) => (isWired(route) ? { ...route, pads: { ...route.pads, ...change } } : route));
    expect(amiss(pads({ labels: ['A', 'B', 'C'] }))).toContain('3 labels and 4 wires');
    expect(amiss(pads({ labels: ['A', 'B', 'C'], wires: ['clock', 'ground', 'supply'] }))).toContain('no pad for data'); // prettier-ignore
    expect(amiss((all) => all.map((route) => ({ ...route, surprise: 1 }) as unknown as FlashRoute))).toContain('surprise'); // prettier-ignore
    expect(amiss((all) => [{ ...all[0], kind: 'by pigeon' } as unknown as FlashRoute])).toContain('kind');
  });
  it('a fixed name on the card ends as its route says, in letters of any size, or says nothing of it', () => {
    const sedge = certain(
      catalogue.boards.find(({ id }) => id === 'sedge-s4'),
      'a board with a fixed name',
    );
    const [first, ...others] = sedge.routes;
    const named = (name: string) =>
      boardProblems(
        {
          ...sedge,
          routes: [
            {
              ...first,
              rule: { kind: 'fixed', name, extension: 'BIN', ignoresRepeat: false, renames: false },
            } as FlashRoute,
            ...others,
          ],
        },
        catalogue.chips,
      ).map(({ path }) => path);
    expect(named('SEDGE')).toEqual([]);
    expect(named('sedge.bin')).toEqual([]);
    expect(named('SEDGE.HEX')).toEqual(['routes.0.rule.name']);
  });
  it('the files a board takes are named once each, its card by the name it asks for', () => {
    expect(savedAs(plover.board.routes).map(({ format, named }) => [format, named])).toEqual([
      ['bin', true],
      ['hex', false],
      ['bin', false],
    ]);
  });
});

describe('the wiring of a tool', () => {
  const wired = catalogue.boards.flatMap((board) =>
    board.routes.filter(isWired).map((route) => ({ board, route })),
  );
  it('leads every wire from what it is to what it is, whatever the labels say, or says why not', () => {
    for (const { board, route } of wired)
      for (const tool of catalogue.programmers) {
        const { wires, against, voltage } = programmerWiring(tool, route, chip(board).level_v);
        if (against !== undefined) {
          expect(wires).toEqual([]);
          continue;
        }
        expect(voltage).not.toBe('');
        expect(wires.map(({ wire }) => wire)).toEqual(expect.arrayContaining(WIRES_OF[route.kind]));
        for (const { wire, pin, pad, pinLabel, padLabel } of wires) {
          expect(tool.pins[pin]).toMatchObject({ wire, label: pinLabel });
          expect(route.pads.wires[pad]).toBe(wire);
          expect(route.pads.labels[pad]).toBe(padLabel);
        }
      }
  });
  it('a tool that gives 5 V is never wired to a chip of 3.3 V', () => {
    const five = certain(catalogue.programmers.find(({ gives_v: gives }) => gives?.includes(5)), 'a tool of 5 V'); // prettier-ignore
    const route = certain(wired.find(({ route: { kind } }) => kind === five.for)?.route, 'its route');
    expect(programmerWiring(five, route, 3.3).against).toContain('would be destroyed');
    expect(programmerWiring(five, { ...route, kind: 'probe' } as WiredRoute, 5).against).toContain('wants a probe'); // prettier-ignore
  });
  it('a tool that lacks one pin is not wired, and the pin is named', () => {
    for (const { board, route } of wired)
      for (const tool of catalogue.programmers.filter((one) => !programmerWiring(one, route, chip(board).level_v).against))
        for (const wire of WIRES_OF[route.kind]) {
          const lame = { ...tool, pins: tool.pins.filter((pin) => pin.wire !== wire) };
          expect(programmerWiring(lame, route, chip(board).level_v)).toMatchObject({ wires: [], against: `${tool.name} has no pin for ${wire}` });
        }
  }); // prettier-ignore
  it('four quarter turns bring every pad back, each turn shows each pad once', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 4 }), fc.integer({ min: -9, max: 9 }), (columns, rows, quarters) => {
        const count = columns * rows;
        const once = turned(count, columns, quarters);
        expect([...once.order].sort((a, b) => a - b)).toEqual(Array.from({ length: count }, (_, at) => at));
        expect(turned(count, columns, quarters + 4)).toEqual(once);
        const next = turned(count, once.columns, 1).order.map((at) => once.order[at]);
        expect(next).toEqual(turned(count, columns, quarters + 1).order);
      }),
    ); // prettier-ignore
  });
});

describe('what is known of a bootloader', () => {
  const record = (changes: Partial<FlashRecord>): FlashRecord => ({
    route: 'card', does: 'write', board: boardInRecord(plover.machine), outcome: { taken: true, name: 'x' }, ...changes,
  }); // prettier-ignore
  const no: CardOutcome = { taken: false, reason: 'no answer', because: 'nobody answered' };
  const cases: [string, FlashRecord[], 'fits' | 'empty' | undefined, string][] = [
    ['nothing tried', [], undefined, 'unknown'],
    ['no answer tells nothing', [record({ route: 'update-class', outcome: no })], undefined, 'unknown'],
    ['a card that was taken', [record({})], undefined, 'there'],
    ['it had answered before the power went', [record({ route: 'update-class', outcome: { ...no, partly: true } })], undefined, 'there'],
    ['by wires nothing is told', [record({ route: 'probe' })], undefined, 'unknown'],
    ['the newest that tells counts', [record({ route: 'probe', fromStart: true }), record({})], undefined, 'absent'],
    ['one was installed', [record({ route: 'probe', does: 'bootloader' }), record({ route: 'probe', fromStart: true })], undefined, 'there'],
    ['installing broke off', [record({ route: 'probe', does: 'bootloader', outcome: { ...no, partly: true } }), record({})], undefined, 'absent'],
    ['another board says nothing of this one', [record({ board: 'fenwick-f8 2' })], undefined, 'unknown'],
    ['another copy of it neither', [record({ board: `${boardInRecord(plover.machine)} 2` })], undefined, 'unknown'],
    ['it was read out', [], 'fits', 'there'],
    ['what was read out is erased', [], 'empty', 'absent'],
  ]; // prettier-ignore
  it.each(cases)('%s', (_name, flashes, verdict, is) => {
    expect(bootloaderKnown(plover, flashes, verdict && { verdict }).is).toBe(is);
  });
});

describe('what an outcome means', () => {
  const { board } = plover;
  const by = (kind: string) =>
    certain(
      board.routes.find((route) => route.kind === kind),
      kind,
    );
  const broke: CardOutcome = { taken: false, reason: 'power lost', because: 'the power went', partly: true };
  it('never says more than is known', () => {
    expect(outcomeWords(by('probe'), 'write', { taken: true, name: 'x' }, false)).toMatchObject({ severity: 'proven', why: expect.stringContaining('ask the board itself') as string });
    const wrong = outcomeWords(by('probe'), 'write', { taken: true, name: 'x', toolSaid: 'the tool failed' }, false);
    expect(wrong).toMatchObject({ severity: 'mend', why: expect.stringContaining('may be there all the same') as string });
    expect(outcomeWords(by('update-class'), 'try', { taken: true, name: '' }, false).why).toContain('Nothing was written');
  }); // prettier-ignore
  it('a flash that broke off says what is left and which way leads out', () => {
    expect(outcomeWords(by('update-class'), 'write', broke, false).why).toContain('Its bootloader was not touched');
    expect(outcomeWords(by('probe'), 'bootloader', broke, false).why).toContain('The wires still do');
    expect(outcomeWords(by('probe'), 'write', broke, true).why).toContain('the board is silent');
    expect(outcomeWords(by('probe'), 'write', { ...broke, partly: undefined } as unknown as CardOutcome, false).why).toContain('holds what it held');
  }); // prettier-ignore
  it('no answer has its causes, those of other routes left out', () => {
    const no: CardOutcome = { taken: false, reason: 'no answer', because: 'nobody answered' };
    const causes = outcomeWords(by('probe'), 'write', no, false)
      .causes?.map(({ cause }) => cause)
      .join(' ');
    expect(causes).toContain('wires are exchanged');
    expect(causes).not.toContain('port');
  });
  it('what shows afterwards is of this machine', () => {
    const says = (kind: string) => afterwards(plover, derive(plover), by(kind)).map((sign) => sign.says).join(' '); // prettier-ignore
    expect(says('card')).toContain('.OLD');
    expect(says('probe')).not.toContain('.OLD');
  });
  it.each([
    ['none', 'drawn by the board'],
    ['own', 'of Slate itself are a flash of their own'],
    [undefined, 'is not known'],
  ] as const)('a display with firmware %s says whether anything of it is flashed apart', (firmware, words) => {
    const slate = plover.catalogue.parts.find((one) => one.kind === 'display');
    if (slate?.kind !== 'display') throw new Error('no display');
    const { firmware: _own, ...bare } = slate;
    const type = { ...bare, name: 'Slate', ...(firmware && { firmware }) };
    const signsOf = (many: number) => {
      const shown = Array.from({ length: many }, (_, nth) => ({ id: `display-${nth}`, part: type.id, role: 'display', type }));
      const facts = { ...plover, parts: [...plover.parts.filter((part) => part.type.kind !== 'display'), ...shown] } as typeof plover;
      return afterwards(facts, derive(facts), by('card')).filter(({ id }) => id === 'display-firmware');
    };
    expect(signsOf(0)).toEqual([]);
    for (const many of [1, 2]) expect(signsOf(many).map(({ says }) => says)).toEqual([expect.stringContaining(words)]);
  }); // prettier-ignore
});

describe('ready-made images', () => {
  const guesses = (names: string[]): Meanings =>
    Object.fromEntries(nameParts(names).map((part) => [part, guessMeaning(part, plover)]));
  it('names fall into parts; a guess is made by the catalogue’s names', () => {
    expect(nameParts(['A32_1.1-Wire (heron).bin', 'a32-1.0.hex'])).toEqual([
      'a32',
      '1.1',
      'wire',
      'heron',
      '1.0',
    ]);
    expect(guessMeaning('v1.1', plover)).toEqual({ aspect: 'revision', value: '1.1' });
    expect(guessMeaning('a32', plover)).toEqual({ aspect: 'board', value: 'alder-a32' });
    expect(guessMeaning('xyzzy', plover)).toBeUndefined();
  });
  it('fits only what agrees in everything that any of the names says', () => {
    const names = ['a32-1.1-heron.bin', 'a32-1.0-heron.bin', 'a32-1.1.bin', 'notes.bin'];
    const { files, none } = judgeReadyMade(names, guesses(names), plover);
    expect(files.map(({ verdict }) => verdict)).toEqual([
      'fits',
      'does not fit',
      'does not say',
      'does not say',
    ]);
    expect(none).toEqual([]);
    expect(judgeReadyMade(['plumb.bin'], guesses(['plumb.bin']), plover).none).toEqual(['probe']);
  });
  it('any names at all are judged, and nothing fits of which nothing is said', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 30 }), { maxLength: 6 }), (names) => {
        const { files } = judgeReadyMade(names, {}, plover);
        expect(files.every(({ verdict }) => verdict === 'does not say')).toBe(true);
        expect(nameParts(names)).toEqual(nameParts(nameParts(names).map((part) => `${part}.bin`)));
      }),
    );
  });
});
