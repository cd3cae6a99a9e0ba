import { stringify } from 'yaml';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Part } from '../src/parts/part';
import type { WiringCase } from '../src/harness/wiringCase';
import { CHANGE_TYPES } from '../src/ripple/changes';
import { measuredBy } from '../src/settings/measured';
import { measuredEdit } from '../src/settings/measuredEdit';
import { PRICES } from '../src/harness/prices';
import { applyEdits } from '../src/machine/edit';
import { calibrationsOf } from '../src/calibration/calibrations';
import { contactNet } from '../src/board/contacts';
import { factAtoms, factInWords, type FactKey, touched, touchedBy } from '../src/machine/touched';
import { laidInto, joinSegments, overlapAt, type Piece } from '../src/bytes/segments';
import { leadLandings } from '../src/harness/landings';
import { parseNet } from '../src/board/net';
import { pinGroup } from '../src/board/chip';
import { planned, replan } from '../src/ripple/replan';
import { proofSteps } from '../src/proofs/proofs';
import { rankLandings } from '../src/harness/rankLandings';
import { readBoardFile, writeBoardFile } from '../src/formats/boardFile';
import { readCatalogue } from '../src/formats/catalogueFiles';
import { type Board, supplyVolts } from '../src/board/board';
import type { KnownFault } from '../src/board/knownFault';
import { voltsAtLead } from '../src/circuit/loads';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';
import { check } from '../src/checks/checks';
import { derive } from '../src/settings/derive';
import { type Machine, type OwnSetting, WARMED } from '../src/machine/machine';
import { changes, EVERY_KIND, ploverJob } from './fixtures/job';

const { catalogue } = installed;
const machines = [
  factsOf(ploverJob().before),
  ...['plover', 'bittern', 'dunlin'].map((id) => factsOf(demoMachine(id))),
  factsOf(withRelays(applyEdits(demoMachine('bittern'), TWO_EXTRUDERS))),
];

/** A relay before whatever is warmed. */
function withRelays(machine: Machine): Machine {
  const relays = WARMED.map((role) => ({ id: `${role}-relay`, part: 'sluice-s10', role }));
  const others = machine.parts.filter(({ id }) => !relays.some((relay) => relay.id === id));
  return { ...machine, parts: [...others, ...relays] };
}

describe('what things rest on', () => {
  /** Every fact some machine has, and every event some change has. */
  const known = new Set<FactKey>([
    ...machines.flatMap((facts) => [...factAtoms(facts).keys()]),
    ...Object.values(CHANGE_TYPES).flatMap((type) => type.events ?? []),
    ...EVERY_KIND.flatMap((_, index) => {
      const list = changes(EVERY_KIND[index]!);
      return machines.flatMap((facts) => [
        ...touched(
          factAtoms(facts),
          factAtoms(
            factsOf(
              planned(
                facts.machine,
                list.filter((change) => change.kind !== 'kit-version'),
                catalogue,
              ),
            ),
          ),
          [],
        ).keys(),
      ]);
    }),
    // An image of its own is an event of the flash, not of the machine.
    'image',
    'stored',
  ]);
  const exists = (pattern: string) =>
    [...known].some((key) =>
      pattern.endsWith('*') ? key.startsWith(pattern.slice(0, -1)) : key === pattern,
    );
  const named: [string, readonly FactKey[]][] = [
    ...machines.flatMap((facts) => [
      ...proofSteps(facts).map((step): [string, readonly FactKey[]] => [step.id, step.restsOn]),
      ...calibrationsOf(facts).map((entry): [string, readonly FactKey[]] => [entry.id, entry.restsOn]),
    ]),
    ...machines[0]!.kit.options.map(({ key }): [string, readonly FactKey[]] => [
      key,
      measuredBy(key)?.restsOn ?? [],
    ]),
  ];
  it('is a fact that some machine has or some change touches: a misspelt one would never be heard', () => {
    const chamber = /chamber/;
    const unheard = named.flatMap(([id, facts]) =>
      facts.filter((fact) => !exists(fact) && !chamber.test(fact)).map((fact) => `${id}: ${fact}`),
    );
    expect([...new Set(unheard)]).toEqual([]);
  });
  it('a calibration falls due with what its value belongs to, and not with less or more', () => {
    const apart = machines.flatMap(calibrationsOf).flatMap(({ id, sets, restsOn }) =>
      sets
        // Steps that a module with others divides are reckoned anew, not measured.
        .filter((key) => measuredBy(key)?.then !== 'rescale')
        .filter((key) => [...measuredBy(key)!.restsOn].sort().join() !== [...restsOn].sort().join())
        .map((key) => `${id}: ${key}`),
    );
    expect([...new Set(apart)]).toEqual([]);
  });
  it('a value that was measured without a relay or a fan keeps that there was none', () => {
    const facts = factsOf(demoMachine('dunlin'));
    const { value } = measuredEdit(facts, 'pid.hotend.p', 20, 'tuned');
    const { measured_with } = value as OwnSetting; // what that edit gives
    expect(measured_with).toMatchObject({ 'relay.hotend': 'none', supply: expect.stringContaining('V') });
    const relayed = factsOf(
      withRelays({ ...facts.machine, settings: { 'pid.hotend.p': value as OwnSetting } }),
    );
    const foreign = check(relayed, derive(relayed)).find(({ id }) => id === 'heat.pid-foreign');
    expect(foreign?.what).toBe('pid.hotend.p was measured with another state of the hot-end relay.');
    // The current of one axis is no matter of another's driver.
    expect(measuredBy('current.x')?.restsOn).toEqual(['board', 'driver.x', 'motor.x']);
    expect(measuredBy('speed.x')).toBeUndefined();
  });
  it('can be said in words', () => {
    for (const key of known) expect(factInWords(key)).toMatch(/^the .{3,}/);
    expect(factInWords('driver.x')).toBe('the X driver');
    expect(factInWords('axis.e')).toBe('the extruder drive');
    expect(factInWords('landing.switch')).toBe('the wiring of a switch');
  });
  it('a pattern with a star is heard for every axis, a plain one only for its own', () => {
    const facts = new Map([['driver.z', { from: 'a', to: 'b' }]]);
    expect(touchedBy(facts, ['board', 'driver.*'])).toBe('driver.z');
    expect(touchedBy(facts, ['driver.x'])).toBeUndefined();
  });
  it('a key in another order is no difference', () => {
    const { machine } = machines[1]!;
    const turned = {
      ...machine,
      supply: { amps_a: machine.supply.amps_a, volts_v: machine.supply.volts_v },
      axes: { ...machine.axes, x: Object.fromEntries(Object.entries(machine.axes.x).reverse()) as never },
    };
    expect([...touched(factAtoms(factsOf(machine)), factAtoms(factsOf(turned)), []).keys()]).toEqual([]);
  });
});

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
