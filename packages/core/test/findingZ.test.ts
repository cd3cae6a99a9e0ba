import { describe, expect, it } from 'vitest';
import { calibrationsOf } from '../src/calibration/calibrations';
import { calibrationTools } from '../src/calibration/calibrationTools';
import type { Facts } from '../src/machine/facts';
import type { Machine } from '../src/machine/machine';
import { applyEdits, type Edit } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, findingsAfter, own, part } from './fixtures/demo';

describe('a nozzle that is its own probe', () => {
  const swapped = [part('plover', 'probe', 'anvil'), own('probe.offset.z', 0)];
  const facts = factsOf(applyEdits(demoMachine('plover'), swapped));
  const settings = derive(facts);
  const value = (key: string) => settings.get(key)?.value;

  it('is where it is, whatever the mount of the probe before it says', () => {
    expect([value('probe.offset.x'), value('probe.offset.y')]).toEqual([0, 0]);
    expect(settings.get('probe.offset.x')?.because).toBe('the nozzle itself touches the plate');
  });
  it('reaches what the nozzle reaches, without room for an offset that is measured yet', () => {
    const { bed_mm: bed, travel_mm: travel } = demoMachine('plover').frame;
    expect(value('map.x.min')).toBe(Math.max(bed.x[0] + 10, travel.x[0]));
    expect(value('map.x.max')).toBe(Math.min(bed.x[1] - 10, travel.x[1]));
    expect(findingsAfter('plover', ...swapped).filter(({ id }) => id.startsWith('probe.'))).toEqual([]);
  });
  it('has no place beside the nozzle to be measured', () => {
    const measured = (of: Facts) =>
      [...calibrationsOf(of), ...calibrationTools(of, derive(of))].map(({ id }) => id);
    expect(measured(facts)).not.toContain('probe-place');
    expect(measured(facts)).toContain('z-offset');
    expect(measured(factsOf(demoMachine('plover')))).toContain('probe-place');
  });
  it('is asked for no mount, also where a description left it open', () => {
    const open = { path: ['not_known'], value: ['mount.side', 'mount.face'] };
    const asked = (...edits: Edit[]) =>
      findingsAfter('plover', { path: ['probe_mount'] }, open, ...edits).filter(({ subject }) =>
        subject.id.startsWith('mount.'),
      );
    expect(asked()).toHaveLength(2);
    expect(asked(...swapped)).toEqual([]);
  });
  it('set aside by hand, is told', () => {
    const told = findingsAfter('plover', ...swapped, own('probe.offset.x', -38));
    expect(told.find(({ id }) => id === 'probe.offset-far')?.what).toBe('The probe offset in X is 38.0 mm from where the nozzle is, and the nozzle itself touches the plate.'); // prettier-ignore
  });
});

describe('what finds Z is measured', () => {
  const measured = (machine: Machine) => {
    const facts = factsOf(machine);
    return [...calibrationsOf(facts), ...calibrationTools(facts, derive(facts))]
      .map(({ id }) => id)
      .filter((id) => /^(z-|probe-repeat)/.test(id));
  };
  it('by a probe, by a switch, and not at all where neither is known', () => {
    const dunlin = demoMachine('dunlin');
    const { 'z-switch': _gone, ...harness } = dunlin.harness;
    expect(new Set(measured(demoMachine('plover')))).toEqual(new Set(['probe-repeat', 'z-offset']));
    expect(new Set(measured(dunlin))).toEqual(new Set(['probe-repeat', 'z-switch']));
    expect(
      measured({ ...dunlin, harness, parts: dunlin.parts.filter(({ id }) => id !== 'z-switch') }),
    ).toEqual([]);
  });
});
