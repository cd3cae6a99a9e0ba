import { describe, expect, it } from 'vitest';
import type { Change } from '../src/ripple/change';
import type { Machine } from '../src/machine/machine';
import { PRICES } from '../src/harness/prices';
import { applyEdits } from '../src/machine/edit';
import { needs } from '../src/ripple/preparation';
import { planned } from '../src/ripple/replan';
import { ripple } from '../src/ripple/ripple';
import { swapPlan } from '../src/ripple/swapPlan';
import { factsOf, installed } from './fixtures/demo';
import { changes } from './fixtures/job';
import { withPart, placesOf, contact } from './fixtures/places';

const { catalogue } = installed;

describe('beside the ribbon of a display', () => {
  it('a display leaves two ribbon pins to a pass-through adapter', () => {
    const machine = applyEdits(withPart('plover', 'display', 'slate-20', 'panel'), [
      { path: ['harness', 'display'], value: { leads: { supply: 'SHOW.2', ground: 'SHOW.1' } } },
      { path: ['parts', 18], value: { id: 'filament-sensor', part: 'reel-switch', role: 'filament' } },
    ]);
    const tapped = placesOf(machine, 'filament-sensor').filter(
      ({ landing, clashes }) => clashes.length === 0 && JSON.stringify(landing).includes('"tap"'),
    );
    expect(tapped.map((place) => contact(place, 'signal')).sort()).toEqual(['SHOW.10', 'SHOW.9']);
    expect(tapped[0]!.lines.find(({ id }) => id === 'tap')?.points).toBe(PRICES.tap.points);
  });
  it('or a wire of the ribbon becomes the lead, and the sheet says which, what is lost, and how a board sits wrong', () => {
    const before = applyEdits(withPart('plover', 'display', 'slate-20', 'panel'), [
      { path: ['harness', 'display'], value: { leads: { supply: 'SHOW.2', ground: 'SHOW.1' } } },
      { path: ['parts', 18], value: { id: 'filament-sensor', part: 'reel-switch', role: 'filament' } },
    ]);
    const by = (kind: string) =>
      placesOf(before, 'filament-sensor').find(
        ({ landing, clashes }) => clashes.length === 0 && JSON.stringify(landing).includes(`"${kind}"`),
      )!;
    const sheet = (kind: string) => {
      const rewired: Change[] = [
        { id: 'r', kind: 'rewire', part: 'filament-sensor', landing: by(kind).landing },
      ];
      const after = factsOf(planned(before, rewired, catalogue));
      const { steps } = swapPlan(factsOf(before), after, ripple(factsOf(before), rewired).consequences);
      const step = steps.find(({ subject }) => subject === 'filament-sensor')!;
      const ribbon = steps.find(({ title }) => title.startsWith('Adapter board'));
      const laid = needs(factsOf(before), after, ripple(factsOf(before), rewired)).map(({ what }) => what);
      return {
        laid,
        ribbon,
        before: ribbon && steps.indexOf(ribbon) < steps.indexOf(step),
        tasks: step.tasks.map(({ what }) => what).join(' '),
        cautions: step.cautions.join(' '),
      };
    };
    const cut = sheet('ribbon-lead');
    expect(cut.tasks).toMatch(/Wire (9|10) of the ribbon, counted from its marked edge/);
    expect(cut.tasks).toMatch(/Lost with it: /);
    expect(cut.cautions).toMatch(/A wire counted wrong cuts the display/);
    expect(cut.laid).toContain('sleeves for the ends of a ribbon wire that is cut');
    expect(cut.laid.join()).not.toMatch(/shell/);
    const board = sheet('tap');
    expect(board.laid).toContain(
      'an adapter board between the ribbon and SHOW, with its contacts brought out',
    );
    expect(cut.ribbon).toBeUndefined();
    expect(board.before).toBe(true);
    expect(board.ribbon!.tasks[0]!.what).toMatch(/Plug the adapter board onto SHOW/);
    expect(board.ribbon!.cautions.join()).toMatch(
      /one contact off destroys: its (5v|3v3) supply meets contact \d+, /,
    );
    expect(board.tasks).toMatch(/goes to what the adapter board brings out: contact (9|10) for signal/);
    expect(by('ribbon-lead').landing).toMatchObject({
      with: expect.arrayContaining([{ kind: 'splice', lead: 'ground' }]) as object,
    });
  });
  it('one adapter board serves two leads, and one that is there is not fitted again', () => {
    const shown = applyEdits(withPart('plover', 'display', 'slate-20', 'panel'), [
      { path: ['harness', 'display'], value: { leads: { supply: 'SHOW.2', ground: 'SHOW.1' } } },
      { path: ['parts', 18], value: { id: 'filament-sensor', part: 'reel-switch', role: 'filament' } },
    ]);
    const tap = (signal: string) => ({
      leads: { signal, ground: 'SHOW.1' },
      with: [{ kind: 'tap' as const, header: 'SHOW' }],
    });
    const boards = (before: Machine, ...told: Change[]) =>
      swapPlan(
        factsOf(before),
        factsOf(planned(before, told, catalogue)),
        ripple(factsOf(before), told).consequences,
      ).steps.filter(({ title }) => title.startsWith('Adapter board'));
    const both = changes(
      { kind: 'rewire', part: 'filament-sensor', landing: tap('SHOW.9') },
      { kind: 'rewire', part: 'y-switch', landing: tap('SHOW.10') },
    );
    expect(boards(shown, ...both)).toHaveLength(1);
    const first = applyEdits(shown, [{ path: ['harness', 'filament-sensor'], value: tap('SHOW.9') }]);
    expect(boards(first, both[1]!)).toEqual([]);
  });
});
