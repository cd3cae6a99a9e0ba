import { applyEdits } from '@jolly/core/machine/edit';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { resolve } from '@jolly/core/machine/facts';
import { certain } from '@jolly/core/tree/certain';
import { valueAt } from '@jolly/core/tree/path';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf as lookedUp, installed } from '../../core/test/fixtures/demo';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { type FactField, factId, factsOf } from '../src/machineFacts';
import { PARTS, type PartId } from '../src/machineParts';

const known = (id: string) => {
  const machine = demoMachine(id);
  return { machine, facts: lookedUp(machine) };
};
const MACHINES = ['plover', 'bittern', 'dunlin'];
const all = (id: string) =>
  PARTS.flatMap(({ id: part }) =>
    factsOf(part, known(id)).map((field): [PartId, FactField] => [part, field]),
  );
const fieldOf = (id: string, part: PartId, label: string, nth = 0) => {
  const field = factsOf(part, known(id)).filter((one) => one.label === label)[nth];
  if (!field) throw new Error(`no ${label}`);
  return field;
};

describe('facts of a machine', () => {
  it.each(MACHINES)('of %s show what its file says, and only what may be empty has no value', (id) => {
    const { machine } = known(id);
    for (const [part, field] of all(id)) {
      const kept = valueAt(machine, field.path);
      if (typeof kept === 'number' || typeof kept === 'string') expect(field.value).toBe(kept);
      else if (field.kind === 'number') expect(field.empty, `${part}: ${field.label}`).toBeDefined();
    }
  });

  it.each(MACHINES)('of %s are each found by an id of their own', (id) => {
    const ids = all(id).map(([, field]) => factId(field));
    expect(new Set(ids).size).toBe(ids.length);
  });

  it.each(MACHINES)('of %s: what can be chosen is something its file can hold', (id) => {
    const { machine } = known(id);
    for (const [part, field] of all(id))
      for (const { value } of field.choices ?? []) {
        const chosen = field.read ? field.read(value) : value;
        const after = applyEdits(machine, [{ path: field.path, value: chosen }]);
        const at = `${part}: ${field.label} = ${value}`;
        expect(machineSchema().validate(after, { convert: false }).error?.message, at).toBeUndefined();
        const resolved = resolve(after, installed.catalogue);
        expect('problems' in resolved ? resolved.problems : [], at).toEqual([]);
      }
  });

  it.each(MACHINES)('of %s: what is chosen is read back as the same choice', (id) => {
    const { machine } = known(id);
    for (const [part, { choices = [], value, path, read, label }] of all(id)) {
      if (value === undefined || choices.length === 0) continue;
      const shown = choices.find((choice) => choice.value === String(value));
      expect(shown, `${part}: ${label}`).toBeDefined();
      if (!read || !shown) continue;
      const after = applyEdits(machine, [{ path, value: read(shown.value) }]);
      const again = factsOf(part, { machine: after, facts: lookedUp(after) }).find(
        (one) => one.label === label,
      );
      expect(again?.value, `${part}: ${label}`).toBe(value);
    }
  });

  it('a second extruder has the drive of the first until it is given its own, and may give that back', () => {
    const two = applyEdits(demoMachine('bittern'), TWO_EXTRUDERS);
    const fields = (machine: Machine) => factsOf('e', { machine, facts: lookedUp(machine) });
    const which = (machine: Machine) =>
      certain(
        fields(machine).find(({ label }) => label === 'Second extruder'),
        'the choice',
      );
    const chosen = (machine: Machine, value: string) =>
      applyEdits(machine, [{ path: which(machine).path, value: which(machine).read?.(value) }]);
    expect(
      fields(demoMachine('bittern'))
        .map(({ label }) => label)
        .join(),
    ).not.toContain('Second');
    expect(which(two).value).toBe('alike');
    const own = chosen(two, 'own');
    expect(own.axes.e2).toEqual(two.axes.e);
    expect(which(own).value).toBe('own');
    const roller = certain(
      fields(own).find(({ label }) => label === 'Second: Roller diameter'),
      'the roller',
    );
    const other = applyEdits(own, [{ path: roller.path, value: 6 }]);
    expect(other.axes.e).toEqual(two.axes.e);
    expect(fields(other).find(({ label }) => label === roller.label)?.value).toBe(6);
    expect(chosen(other, 'alike')).toEqual(two);
    const hot = factsOf('hotend', { machine: two, facts: lookedUp(two) });
    expect(hot.filter(({ label }) => label.startsWith('Second')).map(({ value }) => value)).toEqual(['cartridge-24-40', 't100-a']); // prettier-ignore
  });

  it.each(MACHINES)('of %s: a number that may be empty can be taken out of the file', (id) => {
    const { machine } = known(id);
    for (const [, field] of all(id)) {
      if (!field.empty) continue;
      const after = applyEdits(machine, [{ path: field.path, value: undefined }]);
      expect(machineSchema().validate(after, { convert: false }).error?.message, field.label).toBeUndefined();
    }
  });

  it('the plate and the travel have their two ends, the lower first', () => {
    const { machine } = known('plover');
    const value = (part: PartId, label: string) => fieldOf('plover', part, label).value;
    const { bed_mm: bed, travel_mm: travel, room_mm: room } = machine.frame;
    expect(['Plate from, X', 'Plate to, X', 'Plate from, Y', 'Plate to, Y'].map((label) => value('frame', label))).toEqual([...bed.x, ...bed.y]); // prettier-ignore
    for (const axis of ['x', 'y', 'z'] as const) {
      expect([value(axis, 'Travel from'), value(axis, 'Travel to')]).toEqual(travel[axis]);
      expect(value(axis, 'Room in the frame')).toBe(room?.[axis]);
    }
  });

  it('the place of the probe has its two distances, each behind its side', () => {
    const { probe_mount: mount } = demoMachine('plover');
    expect(fieldOf('plover', 'probe', 'by').value).toBe(mount?.side_mm);
    expect(fieldOf('plover', 'probe', 'by', 1).value).toBe(mount?.face_mm);
    expect(factsOf('probe', { ...known('plover'), machine: { ...demoMachine('plover'), probe_mount: undefined } as never })).toEqual([]); // prettier-ignore
  });

  it('a drive is told by what it is made of', () => {
    const { machine } = known('plover');
    for (const axis of ['x', 'y', 'z', 'e'] as const) {
      const labels = factsOf(axis, known('plover')).map(({ label }) => label);
      const { kind } = machine.axes[axis];
      expect([labels.includes('Pulley'), labels.includes('Screw lead'), labels.includes('Roller diameter')]).toEqual([kind === 'belt', kind === 'screw', kind === 'roller']); // prettier-ignore
    }
  });

  it('microsteps are asked also of the part that stands first in the file, and of none without a driver', () => {
    const { machine } = known('plover');
    const driver = machine.parts.findIndex(
      ({ id }) =>
        id === machine.parts.find(({ role, microsteps }) => role === 'x' && microsteps !== undefined)?.id,
    );
    const parts = [machine.parts[driver]!, ...machine.parts.filter((_, index) => index !== driver)];
    const first = { ...machine, parts };
    const fields = (of: typeof machine) => factsOf('x', { machine: of, facts: lookedUp(of) }).map(({ label }) => label); // prettier-ignore
    expect(fields(first)).toContain('Microsteps');
    const { [parts[0]!.id]: _gone, ...harness } = machine.harness;
    expect(fields({ ...machine, harness, parts: parts.slice(1) })).not.toContain('Microsteps');
  });

  it('microsteps are those of the axis’ own driver', () => {
    const { machine, facts } = known('plover');
    for (const axis of ['x', 'y', 'z', 'e'] as const) {
      const field = fieldOf('plover', axis, 'Microsteps');
      const [list, index] = field.path;
      expect(list).toBe('parts');
      const placed = facts.parts.find(({ id }) => id === machine.parts[Number(index)]?.id);
      expect([placed?.type.kind, placed?.role]).toEqual(['driver', axis]);
      expect(field.choices?.map(({ value }) => Number(value))).toEqual([1, 2, 4, 8, 16, 32, 64, 128, 256]);
      expect(field.choices?.map(({ label }) => label)).toEqual(field.choices?.map(({ value }) => value));
    }
  });
});
