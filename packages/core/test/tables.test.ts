import { stringify } from 'yaml';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Part } from '../src/parts/part';
import type { WiringCase } from '../src/harness/wiringCase';
import { PRICES } from '../src/harness/prices';
import { applyEdits } from '../src/machine/edit';
import { contactNet } from '../src/board/contacts';
import { laidInto, joinSegments, overlapAt, type Piece } from '../src/bytes/segments';
import { leadLandings } from '../src/harness/landings';
import { parseNet } from '../src/board/net';
import { pinGroup } from '../src/board/chip';
import { planned, replan } from '../src/ripple/replan';
import { rankLandings } from '../src/harness/rankLandings';
import { readBoardFile, writeBoardFile } from '../src/formats/boardFile';
import { readCatalogue } from '../src/formats/catalogueFiles';
import { type Board, supplyVolts } from '../src/board/board';
import type { KnownFault } from '../src/board/knownFault';
import { voltsAtLead } from '../src/circuit/loads';
import { installed } from './fixtures/demo';
import { ploverJob } from './fixtures/job';

const { catalogue } = installed;
describe('every landing that is offered', () => {
  const caseOn = (board: Board, part: Part, role: string): WiringCase => ({
    board,
    chip: catalogue.chips.find((entry) => entry.id === board.chip)!,
    vin: 24,
    parts: [{ id: 'it', role, type: part }],
    cables: {},
    bay: undefined,
    jumpers: {},
  });
  it('gives every lead a contact of its own that does what the lead needs', () => {
    for (const board of catalogue.boards)
      for (const part of catalogue.parts)
        for (const role of ['x', 'hotend', 'board']) {
          const wiring = caseOn(board, part, role);
          for (const { landing } of leadLandings(wiring, wiring.parts[0]!)) {
            if (!('leads' in landing)) continue;
            expect(new Set(Object.values(landing.leads)).size).toBe(part.leads.length);
            const gets = voltsAtLead(board, landing, 24, {});
            if (gets !== undefined) expect(gets).toBe(part.supply_v ?? 24);
            for (const lead of part.leads) {
              const net = contactNet(board, landing.leads[lead.role]!)!;
              if (lead.role === 'ground') expect(net.kind).toBe('gnd');
              if (lead.needs === 'pwm')
                expect(net.kind === 'sig' && pinGroup(wiring.chip, net.pin)!.can).toContain('pwm');
            }
          }
        }
  });
  it('on the header made for the part costs nothing', () => {
    const a32 = catalogue.boards.find((entry) => entry.id === 'alder-a32')!;
    const best = (id: string, role: string) => {
      const wiring = caseOn(
        a32,
        catalogue.parts.find((entry) => entry.id === id)!,
        role,
      );
      return rankLandings(wiring, {}, 'it')[0]!;
    };
    expect(best('fan-24-40', 'part')).toMatchObject({
      price: 0,
      landing: { leads: { supply: 'FAN-1.1', control: 'FAN-1.2' } },
    });
    expect(best('heron', 'z')).toMatchObject({
      price: 0,
      landing: { leads: { control: 'PROBE.3', signal: 'PROBE.5' } },
    });
    expect(best('fan-12-40', 'part').price).toBe(PRICES.converter.points);
  });
});

describe('board files', () => {
  it('every board of the catalogue is written and read back the same, and stands on pins its chip has', () => {
    for (const board of catalogue.boards)
      expect(readBoardFile(writeBoardFile(board), catalogue)).toEqual({ value: board });
  });
  it('a mistake is told with its place', () => {
    const board = catalogue.boards[0]!;
    const problem = (changed: Partial<Board>) => {
      const read = readBoardFile(writeBoardFile({ ...board, ...changed }), catalogue);
      return 'problems' in read ? read.problems[0]! : undefined;
    };
    expect(problem({ chip: 'tern-9' })).toMatchObject({
      path: 'chip',
      message: expect.stringContaining('no chip "tern-9"') as string,
    });
    expect(problem({ sockets: [{ ...board.sockets[0]!, dir: 240 }] })!.path).toBe('sockets.0.dir');
    expect(problem({ inputs: [{ pin: 240, pull_up_ohms: 1000, to_v: 5 }] })!.path).toBe('inputs.0.pin');
    expect(problem({ print: [] })!.path).toBe('print');
    const fault = (text: Partial<KnownFault>): KnownFault => ({ id: 'f', pins: [1], what: 'x', hits: 'any', sure: 'proven', way_out: 'y', ...text }); // prettier-ignore
    for (const key of ['what', 'way_out'] as const) {
      expect(problem({ faults: [fault({ [key]: 'a'.repeat(200) })] })).toBeUndefined();
      expect(problem({ faults: [fault({ [key]: 'a'.repeat(201) })] })!.path).toBe(`faults.0.${key}`);
    }
    const header = board.headers[0]!;
    const { max_a: _limit, ...unlimited } = header;
    expect(problem({ headers: [unlimited] })).toMatchObject({
      path: 'headers.0',
      message: expect.stringContaining('max_a') as string,
    });
    expect(problem({ headers: [header, { ...header, id: 'TWICE' }] })).toMatchObject({
      path: 'headers.1.at_mm',
      message: expect.stringContaining(`lies over ${header.id}`) as string,
    });
    expect(problem({ headers: [{ ...header, at_mm: { x: 200, y: 1 } }] })!.path).toBe('headers.0.at_mm');
    expect(
      problem({ headers: [{ ...header, contacts: ['sig:p241'] }, ...board.headers.slice(1)] })!.path,
    ).toBe('headers.0.contacts.0');
    expect(problem({ jumpers: [{ ...board.jumpers![1]!, of: 'M9' }] })!.path).toBe('jumpers.0.of');
    expect(problem({ uses: [{ by: 'card', pins: [241], lost: 'the card' }] })!.path).toBe('uses.0.pins.0');
  });
  it('and with the line it stands on', () => {
    const text = writeBoardFile(catalogue.boards[0]!).replace('sig:p10', 'sig:p241');
    const line = text.split('\n').findIndex((entry) => entry.includes('sig:p241')) + 1;
    const read = readBoardFile(text, catalogue);
    expect('problems' in read && read.problems[0]!.line).toBe(line);
  });
  it('a mistake in the catalogue is told with its file, whichever file the chip stands in', () => {
    const bad = writeBoardFile(catalogue.boards[0]!).replace('sig:p10', 'sig:p241');
    const { problems } = readCatalogue([
      { path: 'b.yaml', text: bad },
      {
        path: 'chips.yaml',
        text: stringify(catalogue.chips.find(({ id }) => id === catalogue.boards[0]!.chip)),
      },
    ]);
    expect(problems).toEqual([
      expect.objectContaining({ file: 'b.yaml', message: expect.stringContaining('no pin 241') as string }),
    ]);
  });
  const a32 = writeBoardFile(
    catalogue.boards.find((board) => board.id === 'alder-a32' && board.revision === '1.1')!,
  );
  const withSister = (sister: string) =>
    readCatalogue([
      { path: 'b.yaml', text: `${a32}---\n${sister}` },
      { path: 'c.yaml', text: catalogue.chips.map((chip) => stringify(chip)).join('---\n') },
    ]);
  it('a revision may give only what differs from its sister', () => {
    const { catalogue: read, problems } = withSister(
      "jolly: board/1\nid: alder-a32\nrevision: '2'\nlike: '1.1'\ndrivers: soldered\n",
    );
    expect(problems).toEqual([]);
    expect(read.boards[1]).toMatchObject({ revision: '2', drivers: 'soldered', name: 'Alder A32' });
    expect(read.boards[1]).not.toHaveProperty('like');
  });
  it('a sister that is not there, or a key that is none, is refused with file and line', () => {
    expect(
      withSister("jolly: board/1\nid: alder-a32\nrevision: '2'\nlike: '0.9'\n").problems[0],
    ).toMatchObject({
      file: 'b.yaml',
      path: 'like',
      message: expect.stringContaining('no alder-a32 revision 0.9') as string,
    });
    expect(
      withSister("jolly: board/1\nid: alder-a32\nrevision: '2'\nlike: '1.1'\ncolour: red\n").problems[0]!
        .message,
    ).toContain('colour');
  });
  it('12 V is a supply like the others', () => {
    expect(parseNet('12v')).toEqual({ kind: 'supply', source: '12v' });
    expect(supplyVolts('12v', 24)).toBe(12);
  });
});

describe('segments', () => {
  /** Pieces that may touch or overlap. */
  const pieces = fc
    .array(fc.record({ address: fc.nat(60), bytes: fc.uint8Array({ minLength: 1, maxLength: 6 }) }), {
      maxLength: 12,
    })
    .map((list): Piece[] => list.map((piece, index) => ({ ...piece, at: index + 1 })));
  const overlaps = (list: Piece[]) =>
    list.some((a, i) =>
      list.some(
        (b, j) => j > i && a.address < b.address + b.bytes.length && b.address < a.address + a.bytes.length,
      ),
    );
  it('an overlap is found exactly when there is one', () => {
    fc.assert(
      fc.property(pieces, (list) => void expect(overlapAt(list) !== undefined).toBe(overlaps(list))),
      { numRuns: 500 },
    );
  });
  it('joined, they rise, do not touch, and hold every byte where it was', () => {
    fc.assert(
      fc.property(
        pieces.filter((list) => !overlaps(list)),
        (list) => {
          const joined = joinSegments(list);
          for (const [index, segment] of joined.entries())
            if (index > 0)
              expect(segment.address).toBeGreaterThan(
                joined[index - 1]!.address + joined[index - 1]!.bytes.length,
              );
          const flat = laidInto(joined, { at: 0, bytes: 2 ** 32 });
          for (const piece of list)
            expect([...flat.subarray(piece.address, piece.address + piece.bytes.length)]).toEqual([
              ...piece.bytes,
            ]);
        },
      ),
    );
  });
});

describe('a plan that changes under the user’s hands', () => {
  it('keeps what the user set where both changed it, and says where', () => {
    const { before, changes: list } = ploverJob();
    const there = planned(before, list, catalogue);
    const index = there.parts.findIndex((part) => part.id === 'hotend-fan');
    const edited = applyEdits(there, [
      { path: ['parts', index, 'part'], value: 'fan-12-40' },
      { path: ['note'], value: 'mine' },
    ]);
    const rest = list.filter((change) => change.id !== 'drivers');
    const { machine, kept } = replan(edited, { before, from: list, to: rest }, catalogue);
    expect(kept).toEqual([]);
    expect(machine.note).toBe('mine');
    expect(machine.parts.find((part) => part.id === 'hotend-fan')!.part).toBe('fan-12-40');
    expect(machine.parts.find((part) => part.id === 'x-driver')!.part).toBe('dray-d1');
    const own = applyEdits(there, [
      {
        path: ['parts', there.parts.findIndex((part) => part.id === 'x-driver'), 'part'],
        value: 'hush-plain',
      },
    ]);
    expect(replan(own, { before, from: list, to: rest }, catalogue)).toMatchObject({
      kept: ['parts.x-driver.part'],
    });
  });
});
