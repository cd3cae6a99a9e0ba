import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  applyEdits,
  derive,
  directionDoctor,
  type Edit,
  type Observation,
  readGcode,
  readStartCode,
  writeEndCode,
  writeStartCode,
} from '../src/index';
import { demoMachine, factsOf, own } from './fixtures/demo';

const settingsAfter = (machine: string, ...list: Edit[]) => {
  const facts = factsOf(applyEdits(demoMachine(machine), list));
  return { facts, settings: derive(facts) };
};

describe('start and end G-code', () => {
  it.each(['plover', 'bittern', 'dunlin'])('what is written for %s reads back without a problem', (id) => {
    for (const rule of ['left-off', 'restored', 'probed-afresh']) {
      const { facts, settings } = settingsAfter(id, own('map.after-home', rule));
      const start = writeStartCode(facts, settings);
      // A map that only a later kit reads stands as a remark, and the reader misses it.
      const missing = readStartCode(start, settings).filter(({ id: check }) => check !== 'map.start-code');
      expect(missing).toEqual([]);
      const end = writeEndCode(facts, settings);
      expect(
        readStartCode(`G28\n${end}`, settings).filter(({ id: check }) => check === 'start.outside'),
      ).toEqual([]);
      expect(end).toContain('M104 S0');
    }
  });
  it('knows each of its mistakes by line', () => {
    const { settings } = settingsAfter('plover', own('map.after-home', 'left-off'));
    const said = (text: string) => readStartCode(text, settings).map(({ id, line }) => `${id} ${line}`);
    expect(said('G28\nM420 S1\nG28 Z')).toEqual(['map.start-code 2']);
    expect(said('G28 X Y\nM420 S1')).toEqual(['start.no-home 0']);
    expect(said('G28\nM420 S1\nM190 S500\nG1 Y-9')).toEqual(['start.over-limit 3', 'start.outside 4']);
    expect(said('G28\nM420 S1\nG91\nG1 Y-9')).toEqual([]);
    expect(said('')).toContain('start.no-home 0');
  });
  it('survives any text', () => {
    const { settings } = settingsAfter('plover');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        readStartCode(text, settings);
        expect(readGcode(text).length).toBe(text.split(/\r?\n/).length);
      }),
    );
  });
});

describe('directions doctor', () => {
  const doctor = (machine: string, observed: [string, string][], ...list: Edit[]) => {
    const { facts, settings } = settingsAfter(machine, ...list);
    return directionDoctor(
      facts,
      settings,
      observed.map(([asked, moved]) => ({ asked, moved }) as Observation),
    );
  };
  it('one motor an axis: a wrong way turns the fact, and the setting with it', () => {
    const found = doctor('plover', [
      ['+x', '-x'],
      ['+y', '+y'],
    ]);
    if (found.kind !== 'change') throw new Error(found.kind);
    expect(found.steps).toHaveLength(1);
    const before = settingsAfter('plover').settings.get('direction.x')!.value;
    const after = settingsAfter('plover', ...found.steps[0]!.edits).settings.get('direction.x')!.value;
    expect(after).toBe(!before);
  });
  it('a value of its own that stands against the facts is taken away first', () => {
    const found = doctor('plover', [['+y', '-y']], own('direction.y', false));
    expect(found).toMatchObject({
      kind: 'change',
      steps: [{ edits: [{ path: ['settings', 'direction.y'] }] }],
    });
  });
  it('an axis that answers for another has the plugs exchanged', () => {
    expect(doctor('plover', [['+x', '+y']])).toMatchObject({
      kind: 'change',
      steps: [{ what: expect.stringContaining('Exchange') as string }],
    });
  });
  it('right once and wrong once is a contradiction; nothing is a dead motor', () => {
    expect(
      doctor('plover', [
        ['+x', '+x'],
        ['-x', '+x'],
      ]).kind,
    ).toBe('contradiction');
    expect(doctor('plover', [['+z', 'nothing']])).toMatchObject({ kind: 'dead', axis: 'z' });
    expect(doctor('plover', [['+z', '+z']]).kind).toBe('fine');
  });
  it('two motors on one belt are judged together, and need both', () => {
    expect(doctor('bittern', [['+x', '+y']]).kind).toBe('more');
    expect(
      doctor('bittern', [
        ['+x', '+x'],
        ['+y', '+y'],
      ]).kind,
    ).toBe('fine');
    expect(
      doctor('bittern', [
        ['+x', '+x+y'],
        ['+y', '+x+y'],
      ]).kind,
    ).toBe('dead');
    const plugs = doctor('bittern', [
      ['+x', '+x'],
      ['+y', '-y'],
    ]);
    expect(plugs).toMatchObject({
      kind: 'change',
      steps: [{ what: expect.stringContaining('Exchange') as string }],
    });
  });
});
