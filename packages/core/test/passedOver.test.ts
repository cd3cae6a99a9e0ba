import { describe, expect, it } from 'vitest';
import { check } from '../src/checks/checks';
import { applyEdits, type Edit } from '../src/machine/edit';
import { proofSteps } from '../src/proofs/proofs';
import { addition, WISHES } from '../src/ripple/additions';
import { applyChange } from '../src/ripple/changes';
import { derive } from '../src/settings/derive';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf, installed } from './fixtures/demo';

const more = (machine: string, id: string, part: string, role: string, leads: Record<string, string>): Edit[] => [
  { path: ['parts', demoMachine(machine).parts.length], value: { id, part, role } },
  { path: ['harness', id], value: { leads } },
]; // prettier-ignore
const { catalogue } = installed;
const saidOf = (machine: string, ...edits: Edit[]) => {
  const facts = factsOf(applyEdits(demoMachine(machine), edits));
  const settings = derive(facts);
  const left = check(facts, settings).filter(({ id }) => id === 'kit.unheard');
  return { facts, settings, left, about: left.map(({ subject }) => subject.id) };
};

describe('a wired part that no image has a pin for is said', () => {
  const FAN = { supply: 'FAN-3.1', control: 'FAN-3.2' };
  const READ = { signal: 'TEMP-C.1', ground: 'TEMP-C.2' };
  it.each([
    ['a second fan of the hot end', more('plover', 'other-fan', 'fan-24-40', 'hotend', FAN), 'Heat creeps up'],
    ['a fan for something that no fan is switched for', more('plover', 'other-fan', 'fan-24-40', 'exhaust', FAN), 'It never turns'],
    ['a thermistor of the room', more('plover', 'room-sensor', 't100-a', 'room', READ), 'Nobody reads it'],
    ['a second heater of the bed', more('plover', 'front-heater', 'bed-24-150', 'bed', FAN), 'It stays cold'],
    ['a second switch of an axis', more('plover', 'far-switch', 'lever-switch-nc', 'x', { signal: 'FILAMENT.3', ground: 'FILAMENT.2' }), 'nothing stops at it'],
  ] as const)('%s', (_name, edits, without) => {
    const { left, about } = saidOf('plover', ...edits);
    expect(about).toEqual([edits[0]?.value && (edits[0].value as { id: string }).id]);
    expect(left[0]?.why).toContain(without);
  }); // prettier-ignore

  it('the first of its kind is spoken to, and so is what the chip reads beside it', () => {
    for (const id of ['plover', 'bittern', 'dunlin']) expect(saidOf(id).about).toEqual([]);
    expect(saidOf('plover', ...more('plover', 'board-fan', 'fan-24-40', 'board', FAN)).about).toEqual([]);
    expect(saidOf('plover', ...more('plover', 'chamber-sensor', 't100-a', 'chamber', READ)).about).toEqual(
      [],
    );
  });

  it('of two filament sensors the first is read, and has the one proof', () => {
    const REEL = { signal: 'FILAMENT.3', ground: 'FILAMENT.2' };
    const one = more('plover', 'reel', 'reel-switch', 'filament', REEL);
    const other: Edit[] = [
      { path: ['parts', demoMachine('plover').parts.length + 1], value: { id: 'other-reel', part: 'reel-switch', role: 'filament' } },
      { path: ['harness', 'other-reel'], value: { leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } } },
    ]; // prettier-ignore
    const { facts, about } = saidOf('plover', ...one, ...other);
    expect(about).toEqual(['other-reel']);
    expect(proofSteps(facts).filter(({ id }) => id === 'filament')).toHaveLength(1);
  });

  it('a thermistor watches the hot end a second time only where it is said to: any other would stop every heat-up', () => {
    const spareIs = (role: string) =>
      saidOf('plover', ...more('plover', `${role}-sensor`, 't100-a', role, READ)).settings.get('sensor.spare')
        ?.value;
    expect(['room', 'board', 'lid', 'spare'].map(spareIs)).toEqual([false, false, false, true]);
  });

  it('nothing that Wiring offers to add is left alone by the kit it is offered for', () => {
    const bittern = factsOf(demoMachine('bittern'));
    const landed = WISHES.flatMap((wish) => {
      const type = certain(catalogue.parts.find(({ kind }) => kind === wish.kind), wish.kind).id;
      const { role, places } = addition(bittern, wish, type, catalogue);
      if (role === undefined || !places[0]) return [];
      const changed = applyChange(bittern.machine, wish.change(role, type, places[0].landing), catalogue);
      if ('impossible' in changed) throw new Error(changed.impossible);
      const facts = factsOf(changed);
      return [[wish.id, check(facts, derive(facts)).filter(({ id }) => id === 'kit.unheard')] as const];
    });
    expect(landed.map(([id]) => id)).toEqual(expect.arrayContaining(['servo', 'chamber-thermistor', 'spare-thermistor', 'filament-sensor', 'lamp']));
    expect(landed.flatMap(([, left]) => left)).toEqual([]);
  }); // prettier-ignore
});
