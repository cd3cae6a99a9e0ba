import { describe, expect, it } from 'vitest';
import { calibrationsOf } from '../src/calibration/calibrations';
import { calibrationTools } from '../src/calibration/calibrationTools';
import type { Facts } from '../src/machine/facts';
import { applyEdits } from '../src/machine/edit';
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
  it('set aside by hand, is told', () => {
    const told = findingsAfter('plover', ...swapped, own('probe.offset.x', -38));
    expect(told.find(({ id }) => id === 'probe.offset-far')?.what).toBe('The probe offset in X is 38.0 mm from where the nozzle is, and the nozzle itself touches the plate.'); // prettier-ignore
  });
});
