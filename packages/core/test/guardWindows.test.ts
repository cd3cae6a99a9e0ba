import { describe, expect, it } from 'vitest';
import type { Finding } from '../src/finding/finding';
import { applyEdits, type Edit } from '../src/machine/edit';
import { unguarded } from '../src/settings/guardsOff';
import { derive } from '../src/settings/derive';
import { demoMachine, factsOf, findingsAfter, findingsWith, installed, own } from './fixtures/demo';

describe('a guard that does not suit its heater', () => {
  it.each([
    ['heat.guard-late', 'drop-time', 500, 1],
    ['heat.guard-late', 'rise-time', 600, 1],
    ['heat.guard-trips', 'rise-time', 6, -1],
    ['heat.guard-trips', 'drop-time', 3, -1],
  ] as const)('%s: the nearest time that does is offered', (id, window, set, beyond) => {
    const key = `guard.hotend.${window}`;
    const remediesAt = (value: number) => findingsAfter('plover', own(key, value)).find((finding) => finding.id === id)?.remedies;
    const offered = remediesAt(set)?.find(({ label }) => label.startsWith('Make it'));
    const value = Number(/\d+/.exec(offered?.label ?? '')?.[0]);
    expect(offered?.edits).toEqual([expect.objectContaining({ value: expect.objectContaining({ value }) })]);
    expect(remediesAt(value)).toBeUndefined();
    expect(remediesAt(value + beyond)).toBeDefined();
  }); // prettier-ignore
  it('a heater that does not reach its target is not said to rise by less than nothing', () => {
    const weak = findingsAfter('plover', { path: ['supply', 'volts_v'], value: 12 });
    const whys = weak.flatMap(({ id, why }) => (id === 'heat.guard-trips' ? [why] : []));
    expect(whys.join()).toMatch(/it rises no more, even at full power; the guard waits for/);
    expect(whys.join()).not.toMatch(/rises -/);
  });
  it('that of a chamber may not be switched off either, nor stand without a heater', () => {
    const { parts } = demoMachine('plover');
    const heated = [
      { path: ['parts', parts.length], value: { id: 'chamber-heater', part: 'bed-24-150', role: 'chamber' } },
      { path: ['parts', parts.length + 1], value: { id: 'chamber-sensor', part: 't100-a', role: 'chamber' } },
    ];
    const found = (...edits: Edit[]) => findingsAfter('plover', ...edits).flatMap(({ id, what }) => (/guard-(off|without)/.test(id) ? [what] : [])); // prettier-ignore
    expect(found(...heated)).toEqual([]);
    expect(found(...heated, own('guard.chamber', false))).toEqual(['The thermal guard of the chamber is off.']); // prettier-ignore
    expect(found(own('guard.chamber', true))).toEqual(['The chamber is guarded but has no heater.']);
  });
  it('of a heater nobody described it is not known, and said so for as long as it is', () => {
    const { catalogue } = installed;
    const parts = catalogue.parts.map((part) => {
      if (part.id !== 'cartridge-24-40' || part.kind !== 'heater') return part;
      const { body: _curve, ...bare } = part;
      return bare;
    });
    const about = (list: readonly Finding[]) => list.filter(({ id }) => id.startsWith('heat.guard-'));
    const [asked, ...others] = about(findingsWith({ ...catalogue, parts }, 'plover'));
    expect([asked?.id, asked?.severity, others]).toEqual(['heat.guard-unjudged', 'question', []]);
    expect(asked?.what).toBe('Whether its guard suits the hot end is not known.');
    expect(about(findingsWith(catalogue, 'plover'))).toEqual([]);
  });
});

describe('which heater is not guarded goes by the image on the board, too', () => {
  const told = (edits: Edit[], off: string[] | undefined) => {
    const facts = factsOf(applyEdits(demoMachine('plover'), edits));
    const settings = derive(facts);
    return unguarded(facts, settings, off).map(({ what, on }) => [on, what]);
  };
  const off = own('guard.bed', false);
  it('switched on in the file, it guards nothing until that is flashed', () => {
    expect(told([], ['guard.bed'])).toEqual([
      ['board', 'The thermal guard of the bed is on in the machine file, but off in the image on the board. Build and flash.'],
    ]); // prettier-ignore
  });
  it('switched off in the file, the board has it until that is flashed', () => {
    expect(told([off], [])).toEqual([
      [
        'next image',
        'The thermal guard of the bed is off in the machine file. The image on the board has it.',
      ],
    ]);
  });
  it('off in both, or with an image that nobody knows, it is off', () => {
    for (const image of [['guard.bed'], undefined])
      expect(told([off], image)).toEqual([['board', 'The thermal guard of the bed is off.']]);
  });
  it('of what has no heater nothing is said', () => {
    expect(told([], ['guard.chamber'])).toEqual([]);
    expect(told([], undefined)).toEqual([]);
  });
});
