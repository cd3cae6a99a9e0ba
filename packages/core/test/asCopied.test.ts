import { describe, expect, it } from 'vitest';
import { machineSchema, type Machine } from '../src/machine/machine';
import { asCopied } from '../src/settings/asCopied';
import { demoMachine, factsOf } from './fixtures/demo';

const tuned = (id: string): Machine => {
  const machine = demoMachine(id);
  return {
    ...machine,
    board: { ...machine.board, marking: 'K32-48', copy: 2 },
    parts: machine.parts.map((part) => ({ ...part, copy: 3 })),
    jumpers: {},
    readings: { bed: [{ raw: 900, known_c: 20 }] },
    bed_map: { x: [0, 100], y: [0, 100], z: [[0, 0.1], [0, -0.1]] } as unknown as NonNullable<Machine['bed_map']>,
    waivers: { 'heat.max heat.bed.max': { because: 'a test stand' } },
    settings: {
      'pid.bed.p': { value: 71, source: 'override', because: 'tuned' },
      'steps.e': { value: 341.6, source: 'carried', because: 'marked filament' },
      'accel.x': { value: 900, source: 'override', because: 'rings', measured_with: { 'axis.x': 'x' } },
      'park.lift': { value: 12, source: 'override', because: 'a tall part' },
    },
    ...(machine.probe_mount && { probe_mount: { ...machine.probe_mount, z_mm: -1.4, stowed_mm: 3 } }),
  };
}; // prettier-ignore

describe('a machine that is taken for its twin', () => {
  it.each(['plover', 'bittern', 'dunlin'])('%s: is all of it but what was found out on that one', (id) => {
    const [of, copy] = [tuned(id), asCopied(tuned(id))];
    for (const gone of ['bed_map', 'readings', 'waivers', 'jumpers', 'mark'] as const)
      expect(copy).not.toHaveProperty(gone);
    expect(Object.keys(copy.settings)).toEqual(['park.lift']);
    const { z_mm: _offset, stowed_mm: _stowed, ...mount } = of.probe_mount ?? {};
    expect(copy.probe_mount ?? {}).toEqual(mount);
    expect(copy.board).toEqual({ id: of.board.id, revision: of.board.revision, revision_seen: false });
    expect(copy.parts).toEqual(demoMachine(id).parts);
    for (const same of ['frame', 'axes', 'supply', 'harness', 'kit'] as const) expect(copy[same]).toEqual(of[same]); // prettier-ignore
    expect(machineSchema().validate(copy, { convert: false }).error).toBeUndefined();
    expect(() => factsOf(copy)).not.toThrow();
  });
  it('takes nothing from the one it is copied from', () => {
    const of = tuned('plover');
    asCopied(of);
    expect(of).toEqual(tuned('plover'));
  });
});
