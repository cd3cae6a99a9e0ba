import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { copyOf, freshHeader, looksOf, NEW_BOARD, nextId } from '../src/board/boardDraft';
import { BOARD_FORM, problemWords } from '../src/board/boardForm';
import { contactWords, numberedOn, parseContacts } from '../src/board/contactWords';
import { inverse, type Point, projected, projectionOf, sizeByDistance } from '../src/board/photoFit';
import { overlap, plugRoom } from '../src/board/plugRoom';
import { boardBy } from '../src/catalogue/catalogue';
import { draftProblems, readBoardFile, writeBoardFile, writeBoardRevision } from '../src/formats/boardFile';
import { readChipFile, writeChipFile } from '../src/formats/chipFile';
import { installed } from './fixtures/demo';

const { catalogue } = installed;
/** What a test knows to be there. */
function present<T>(thing: T | undefined): T {
  if (thing === undefined) throw new Error('it is not there');
  return thing;
}

const net = fc.oneof(
  fc.constantFrom('gnd', '3v3', '5v', '12v', 'vin', 'nc', '?'),
  fc.tuple(fc.constantFrom('sig', 'sw'), fc.integer({ min: 0, max: 255 })).map(([kind, pin]) => `${kind}:p${pin}`),
); // prettier-ignore

describe('contacts as one types them', () => {
  it('are read by short words, ranges and repeats', () => {
    expect(parseContacts('5v gnd 10')).toEqual(['5v', 'gnd', 'sig:p10']);
    expect(parseContacts('v, s40; g*2 nc ?')).toEqual(['vin', 'sw:p40', 'gnd', 'gnd', 'nc', '?']);
    expect(parseContacts('20..22 s4-3')).toEqual(['sig:p20', 'sig:p21', 'sig:p22', 'sw:p4', 'sw:p3']);
    expect(parseContacts(' ')).toEqual([]);
  });
  it('are the same again however they were written short', () => {
    fc.assert(
      fc.property(fc.array(net, { maxLength: 80 }), (nets) => {
        expect(parseContacts(contactWords(nets))).toEqual(nets);
      }),
    );
  });
  it('are refused by the word that is none, and by number', () => {
    expect(() => parseContacts('5v gnt')).toThrow('“gnt” is no contact');
    for (const word of ['__proto__', 'constructor', 'toString'])
      expect(() => parseContacts(word)).toThrow('is no contact');
    expect(() => parseContacts('1..90')).toThrow('90 contacts');
    expect(() => parseContacts('0..999')).toThrow('1000 contacts');
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        try {
          for (const read of parseContacts(text)) expect(read).toMatch(/^(gnd|3v3|5v|12v|vin|nc|\?|s(ig|w):p\d{1,3})$/);
        } catch (error) {
          expect(String(error)).toMatch(/contact/);
        }
      }),
    ); // prettier-ignore
  });
  it('number on: each kind of pin by as many as it spans, the rest stays', () => {
    expect(numberedOn(['5v', 'gnd', 'sig:p10'])).toEqual(['5v', 'gnd', 'sig:p11']);
    expect(numberedOn(['sig:p4', 'sig:p6', 'sw:p40'])).toEqual(['sig:p7', 'sig:p9', 'sw:p41']);
  });
});

describe('headers one after the other', () => {
  it('are named on: axes, numbers, or a number behind', () => {
    expect(nextId('STOP-X', new Set())).toBe('STOP-Y');
    expect(nextId('STOP-Y', new Set(['STOP-X']))).toBe('STOP-Z');
    expect(nextId('FAN-1', new Set(['FAN-2']))).toBe('FAN-3');
    expect(nextId('PROBE', new Set(['PROBE']))).toBe('PROBE-2');
  });
  it('a copy never lies over another header and stays on the board while there is room', () => {
    fc.assert(
      fc.property(
        fc.record({ x: fc.integer({ min: 10, max: 80 }), y: fc.integer({ min: 10, max: 70 }) }),
        fc.constantFrom('right', 'up'),
        fc.integer({ min: 1, max: 6 }),
        (at_mm, runs, copies) => {
          let draft = { ...NEW_BOARD, outline_mm: { x: 120, y: 90 } };
          const header = { ...freshHeader(draft, at_mm), runs } as const;
          draft = { ...draft, headers: [header] };
          for (let made = 0; made < copies; made += 1)
            draft = { ...draft, headers: [...draft.headers, copyOf(draft, present(draft.headers.at(-1)))] };
          const rooms = draft.headers.map((row) => plugRoom(row));
          rooms.forEach((room, index) =>
            rooms.slice(0, index).forEach((other) => expect(overlap(room, other)).toBe(false)),
          );
          expect(new Set(draft.headers.map(({ id }) => id)).size).toBe(copies + 1);
          for (const { left, front } of rooms) expect(Math.min(left, front)).toBeGreaterThan(-3);
        },
      ),
    );
  });
});

describe('a photo to draw over', () => {
  const corner = (x: number, y: number) => fc.record({ x: fc.double({ min: x - 0.15, max: x + 0.15, noNaN: true }), y: fc.double({ min: y - 0.15, max: y + 0.15, noNaN: true }) }); // prettier-ignore
  const corners = fc.tuple(corner(0.2, 0.8), corner(0.8, 0.8), corner(0.8, 0.2), corner(0.2, 0.2));
  const size = fc.record({ x: fc.integer({ min: 20, max: 400 }), y: fc.integer({ min: 20, max: 400 }) });
  it('is straightened: corners lie on corners, lines stay lines, and back is back', () => {
    fc.assert(
      fc.property(corners, size, fc.double({ min: 0, max: 1, noNaN: true }), (at, { x, y }, share) => {
        const projection = projectionOf({ x, y }, at);
        const flat = [[0, 0], [x, 0], [x, y], [0, y]] as const; // prettier-ignore
        flat.forEach(([u, v], index) => {
          const there = projected(projection, { x: u, y: v });
          expect(Math.hypot(there.x - present(at[index]).x, there.y - present(at[index]).y)).toBeLessThan(1e-6);
        });
        const point = { x: x * share, y: y * share };
        const back = projected(inverse(projection), projected(projection, point));
        expect(Math.hypot(back.x - point.x, back.y - point.y)).toBeLessThan(1e-3 * Math.max(x, y));
      }),
    ); // prettier-ignore
  });
  const SQUARE: [Point, Point, Point, Point] = [{ x: 0.1, y: 0.9 }, { x: 0.9, y: 0.9 }, { x: 0.9, y: 0.1 }, { x: 0.1, y: 0.1 }]; // prettier-ignore
  it('corners that cross, or lie in a line, are refused', () => {
    const [a, b, c, d] = SQUARE;
    expect(() => projectionOf({ x: 100, y: 80 }, [a, c, b, d])).toThrow('around the board');
    expect(() => projectionOf({ x: 100, y: 80 }, [a, a, b, c])).toThrow('around the board');
    // One that is pushed in beyond the line of its neighbours, whichever it is.
    const pushed = { x: 0.5, y: 0.5 };
    const nearly = [{ x: 0.45, y: 0.55 }, { x: 0.55, y: 0.55 }, { x: 0.55, y: 0.45 }, { x: 0.45, y: 0.45 }]; // prettier-ignore
    for (const nth of [0, 1, 2, 3]) {
      const others = [a, b, c, d].map((at, index) =>
        index === nth ? (nearly[(nth + 2) % 4] ?? pushed) : at,
      );
      expect(() => projectionOf({ x: 100, y: 80 }, others as never)).toThrow('around the board');
      const within = [a, b, c, d].map((at, index) => (index === nth ? (nearly[nth] ?? pushed) : at));
      expect(() => projectionOf({ x: 100, y: 80 }, within as never)).not.toThrow();
    }
  });
  it('two points of known distance tell the size of a board seen from above', () => {
    // 1200 × 900 points; 0.5 of the width is 600 points and 60 mm.
    const [from, to] = [{ x: 0.2, y: 0.5 }, { x: 0.7, y: 0.5 }]; // prettier-ignore
    expect(sizeByDistance(SQUARE, [from, to], 60, 1200 / 900)).toEqual({ x: 96, y: 72 });
    expect(() => sizeByDistance(SQUARE, [from, from], 60, 1)).toThrow('two points are one');
    expect(() => sizeByDistance(SQUARE, [from, to], 0, 1)).toThrow('above 0');
  });
});

describe('a board that is described', () => {
  const alderAt = (revision: string) => present(boardBy(catalogue, { id: 'alder-a32', revision }));
  const [alder, older] = [alderAt('1.1'), alderAt('1.0')];
  it('from nothing: what is missing is told in the words of the form', () => {
    const said = draftProblems(NEW_BOARD, catalogue.chips).map((problem) => problemWords(NEW_BOARD, problem));
    expect(said).toEqual(expect.arrayContaining(['Name missing', 'Chip missing', 'Width and Depth missing']));
    expect(said).toContain(undefined);
    const draft = { ...NEW_BOARD, sockets: [{ id: 'M1' }] };
    expect(draftProblems(draft, catalogue.chips).map((problem) => problemWords(draft, problem))).toContain('M1, Step pin missing'); // prettier-ignore
  });
  it('the rules speak of what has been said, before the rest is there', () => {
    const draft = { ...NEW_BOARD, chip: 'mica-c', headers: [{ ...freshHeader(NEW_BOARD), family: 'K2 latch', contacts: ['gnd', 'sig:p250'] }] }; // prettier-ignore
    const said = draftProblems(draft, catalogue.chips).map((problem) => problemWords(draft, problem));
    expect(said.join('\n')).toContain('H1, Contacts: H1: Mica-C has no pin 250');
  });
  it('whole boards have nothing open; what is drawn is what there is', () => {
    for (const board of catalogue.boards) {
      expect(draftProblems(board, catalogue.chips)).toEqual([]);
      expect(looksOf(board).sockets).toHaveLength(board.sockets.length);
    }
  });
  it('every key of a board file has a field in the form, or is written by it', () => {
    const asked = new Set(BOARD_FORM.flatMap(({ keys }) => keys));
    for (const board of catalogue.boards)
      for (const key of Object.keys(board)) expect(key === 'jolly' || key === 'headers' || asked.has(key), key).toBe(true); // prettier-ignore
  });
  it('a further revision is written by what differs, and read beside its sister it is whole', () => {
    const text = writeBoardRevision(older, alder);
    expect(text).toContain('like: "1.1"');
    expect(text).not.toContain('STOP-X');
    expect(text.length).toBeLessThan(writeBoardFile(older).length / 3);
    expect(readBoardFile(text, catalogue)).toEqual({ value: older });
    const alone = readBoardFile(text, { chips: catalogue.chips, boards: [] });
    expect(JSON.stringify(alone)).toContain('there is no alder-a32 revision 1.1');
  });
  it('a contact nobody knows, or that is connected to nothing, is read and keeps its word', () => {
    const [first, ...rest] = alder.headers;
    const board = { ...alder, headers: [{ ...present(first), contacts: ['5v', 'nc', '?'] }, ...rest] };
    expect(readBoardFile(writeBoardFile(board), catalogue)).toEqual({ value: board });
  });
});

describe('a chip file', () => {
  it('is read as it was written; groups that share a pin or run backwards are refused', () => {
    for (const chip of catalogue.chips) expect(readChipFile(writeChipFile(chip))).toEqual({ value: chip });
    const chip = present(catalogue.chips[0]);
    const group = present(chip.pin_groups[0]);
    const wrong = (pins: [number, number]) => JSON.stringify(readChipFile(writeChipFile({ ...chip, pin_groups: [group, { ...group, pins }] }))); // prettier-ignore
    expect(wrong([9, 3])).toContain('the last comes before the first');
    expect(wrong([group.pins[1], group.pins[1] + 3])).toContain('are in the group');
  });
});

describe('what a board says of itself', () => {
  const alder = present(boardBy(catalogue, { id: 'alder-a32', revision: '1.1' }));
  const said = (draft: Parameters<typeof draftProblems>[0]) => draftProblems(draft, catalogue.chips).map(({ path, message }) => `${path}: ${message}`); // prettier-ignore
  const withSocket = (index: number, lines: object) => ({ ...alder, sockets: alder.sockets.map((socket, at) => (at === index ? { ...socket, ...lines } : socket)) }); // prettier-ignore

  it('no two lines have one pin, but modules that are enabled together, and a socket that is there twice', () => {
    expect(said(alder)).toEqual([]);
    expect(said(withSocket(1, { step: 0 }))).toEqual(['sockets.1.step: p0 is the step of M1 already; the step of M2 needs another']);
    expect(said(withSocket(0, { dir: 0 }))).toEqual(['sockets.0.dir: p0 is the step of M1 already; the dir of M1 needs another']);
    expect(said(withSocket(2, { enable: 80 }))).toEqual([]);
    expect(said(withSocket(2, { step: 0, dir: 1, enable: 80 }))).toEqual([]);
    expect(said(withSocket(2, { step: 0, dir: 1 }))).toHaveLength(2);
    expect(said({ ...alder, host_serial: { receive: 70, send: 70 } })).toEqual(['host_serial.send: p70 is the receive of the host’s line already; the send of the host’s line needs another']);
    expect(said({ ...alder, host_serial: { receive: 3, send: 71 } })).toEqual(['host_serial.receive: p3 is the dir of M2 already; the receive of the host’s line needs another']);
  }); // prettier-ignore
  it('and nothing of it lies beside it', () => {
    const off = { x: 113, y: 40 };
    expect(said({ ...alder, chip_at_mm: off })).toEqual(['chip_at_mm: the chip lies off the board, which is 112 mm by 88 mm']); // prettier-ignore
    expect(said({ ...alder, holes_mm: [{ x: 4, y: -1 }] })).toEqual(['holes_mm.0: hole 1 lies off the board, which is 112 mm by 88 mm']); // prettier-ignore
    expect(said(withSocket(3, { at_mm: off }))[0]).toMatch(/^sockets.3.at_mm: M4 lies off the board/);
    expect(said({ ...alder, jumpers: (alder.jumpers ?? []).map((jumper) => ({ ...jumper, at_mm: off })) })[0]).toMatch(/^jumpers.0.at_mm: USB lies/); // prettier-ignore
  });
  it('what a draft does not say yet is left alone', () => {
    const { host_serial: _line, chip_at_mm: _chip, print_at_mm: _print, holes_mm: _holes, ...begun } = alder;
    expect(said(begun).map((problem) => problem.split(':')[0])).toEqual(expect.arrayContaining(['host_serial', 'chip_at_mm'])); // prettier-ignore
    expect(said(begun).join()).not.toMatch(/off the board|already/);
  });
});
