import type { Finding } from '@jolly/core/finding/finding';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { PARTS, partOfFinding, partOfSetting } from '../src/machineParts';

const facts = factsOf(demoMachine('plover'));
const { kit } = facts;
const about = (kind: Finding['subject']['kind'], id: string) =>
  partOfFinding({ subject: { kind, id } } as Finding, { kit, facts });

describe('where something of a machine is found', () => {
  it('every setting of the kit has its part, and what the kit does not know is under the name', () => {
    const known = new Set<string>(PARTS.map(({ id }) => id));
    for (const { key } of kit.options) expect(known.has(partOfSetting(key, { kit }))).toBe(true);
    expect(partOfSetting('steps.x', { kit })).toBe('x');
    expect(partOfSetting('unheard.of', { kit })).toBe('identity');
  });

  it.each([
    ['setting', 'steps.z', 'z'],
    ['machine', 'plover', 'identity'],
    ['fact', 'frame.room_mm.x', 'x'],
    ['fact', 'probe_mount.side_mm', 'probe'],
    ['fact', 'bed_map', 'map'],
    ['fact', 'base', 'identity'],
    ['fact', 'frame.bed_mm', 'frame'],
    ['part', 'gone', 'frame'],
    ['contact', 'x-min', 'frame'],
  ] as const)('a finding of %s %s is under %s', (kind, id, part) => {
    expect(about(kind as Finding['subject']['kind'], id)).toBe(part);
  });

  it('a part is under what it is, or under what it serves', () => {
    const under = Object.fromEntries(facts.parts.map(({ id, role, type }) => [`${type.kind} ${role}`, about('part', id)])); // prettier-ignore
    expect(under).toMatchObject({
      'motor x': 'x',
      'motor e': 'e',
      'heater hotend': 'hotend',
      'heater bed': 'bed',
      'thermistor bed': 'bed',
      'fan part': 'fans',
    });
    expect(facts.parts.filter(({ type }) => type.kind === 'probe').map(({ id }) => about('part', id))).toEqual(['probe']); // prettier-ignore
  });

  it('a second hot end is found where the first one is', () => {
    const [heater] = facts.parts.filter(({ type, role }) => type.kind === 'heater' && role === 'hotend');
    const second = { ...heater, id: 'e2-heater', role: 'hotend-2' } as (typeof facts.parts)[number];
    const twin = { ...facts, parts: [...facts.parts, second] };
    expect(partOfFinding({ subject: { kind: 'part', id: 'e2-heater' } } as Finding, { kit, facts: twin })).toBe('hotend'); // prettier-ignore
  });
});
