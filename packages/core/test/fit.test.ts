import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { explain } from '../src/build/explain';
import { chooseFit, corrected, type Costs, type MeasuredFeature, worthOf } from '../src/fit/chooseFit';
import { neededBy } from '../src/checks/needsChecks';
import { differingKeys, settingsWith } from '../src/fit/culprit';
import { imageFeatures } from '../src/fit/imageFeatures';
import { factsTurned, goesWith, lossesOf } from '../src/fit/leaveOut';
import { editsOf, proposals } from '../src/fit/proposals';
import { applyEdits, overrideEdit } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf, installed } from './fixtures/demo';

const plover = factsOf(demoMachine('plover'));
const { catalogue } = installed;
const all = imageFeatures({ kit: plover.kit, settings: derive(plover) });
const feature = (key: string) =>
  certain(
    all.find((entry) => entry.key === key),
    key,
  );

describe('features of an image', () => {
  it('are those the kit gives a worth: what guards, or only says how something is wired, is none', () => {
    const keys = all.map(({ key }) => key);
    expect(keys).toContain('store.report');
    for (const key of keys)
      expect(key).not.toMatch(/^guard\.|^bed\.heated$|pull-up|^direction\.|^probe\.alarm$/);
    // Which display a machine without one would be given is not known.
    expect(keys).not.toContain('display.kind');
    expect(feature('arcs.on')).toMatchObject({ on: false, other: true });
    expect(feature('control.bed')).toMatchObject({ on: true, other: 'on-off' });
  });
  it('go with those that cannot be without them, and some cannot go at all', () => {
    const on = all.filter((entry) => entry.on);
    expect(goesWith(plover, catalogue, feature('pause.on'), on)).toMatchObject({
      others: [{ key: 'change.on' }],
    });
    expect(goesWith(plover, catalogue, feature('probe.kind'), on)).toHaveProperty('because');
    expect(goesWith(plover, catalogue, feature('tram.on'), on)).toEqual({ others: [] });
  });
  it('are lost in use as commands, as keys of Bring-up and as what the checks then say', () => {
    const lost = lossesOf(plover, catalogue, [feature('map.on')]);
    expect(lost.commands).toContain('map take, taking a bed map');
    expect(lost.actions).toEqual(expect.arrayContaining(['Take the map', 'Use the map']));
    expect(derive(factsTurned(plover, catalogue, [feature('map.on')])).get('map.on')?.value).toBe(false);
    expect(derive(plover).get('map.on')?.value).toBe(true);
  });
});

const nothing = { commands: [], actions: [], findings: [] };
const measured = (key: string, flash: number, worth: number, neededBy: string[] = []): MeasuredFeature => ({
  key, label: key.toUpperCase(), without: 'it is gone', worth, on: true, other: false, cost: { flash, ram: 10 }, neededBy, lost: nothing,
}); // prettier-ignore
const costs: Costs = {
  whole: { flash: 1000, ram: 100 },
  features: [measured('a', 200, 5), measured('b', 150, 3, ['c']), measured('c', 60, 3), measured('d', 40, 1)],
  bound: [],
  effort: { key: 'compiler.effort', value: 'across-sources', saves: { flash: 50, ram: 0 } },
};

describe('ways to make an image fit', () => {
  it('are the smallest loss, what keeps the dearest instead, and as the compiler works now; none twice', () => {
    const found = proposals(costs, { flash: 800, ram: 100 }, { worth: {}, locked: [] });
    if ('short' in found) throw new Error('it can be made to fit');
    expect(found.map(({ title, dropped, harder }) => [title, harder, dropped.map(({ key }) => key)])).toEqual(
      [
        ['Smallest loss', true, ['a']],
        ['Keep: A', true, ['b', 'c']],
        ['As the compiler works now', false, ['a']],
      ],
    );
    const [first] = found;
    expect(editsOf(certain(first, 'the first'), costs)).toEqual([
      overrideEdit('a', false, 'left out so that the image fits'),
      overrideEdit('compiler.effort', 'across-sources', 'so that the image fits'),
    ]);
  });
  it('say what is missing where nothing helps', () => {
    expect(proposals(costs, { flash: 400, ram: 100 }, { worth: {}, locked: [] })).toEqual({ short: { flash: 100, ram: 0 } }); // prettier-ignore
  });
  it('keep to the room, to what is locked and to what needs what, whatever things are worth', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 500, max: 1000 }),
        fc.dictionary(fc.constantFrom('a', 'b', 'c', 'd'), fc.integer({ min: 0, max: 9 })),
        fc.subarray(['a', 'b', 'c', 'd']),
        (flash, worth, locked) => {
          const found = proposals(costs, { flash, ram: 100 }, { worth, locked });
          if ('short' in found) return;
          // What is tried to be kept is worth more than what is not.
          const worths = certain(found[0], 'the smallest loss').dropped.map((one) => worthOf(one, { worth }));
          for (const { title } of found) {
            const instead = costs.features.find(({ label }) => title === `Keep: ${label}`);
            if (instead)
              expect(worths.filter((one) => one > worthOf(instead, { worth })).length).toBeLessThan(2);
          }
          for (const { dropped, kept, predicted, lost } of found) {
            const gone = dropped.map(({ key }) => key);
            expect(predicted.flash).toBeLessThanOrEqual(flash);
            for (const key of locked) expect(gone).not.toContain(key);
            if (gone.includes('b')) expect(gone).toContain('c');
            expect(kept.length + dropped.length).toBe(4);
            expect(lost).toBe(dropped.reduce((sum, one) => sum + worthOf(one, { worth }), 0));
          }
        },
      ),
    );
  });
  it('are put right by what a real build took', () => {
    const wish = { worth: {}, locked: [], harder: false };
    const first = chooseFit(costs, { flash: 960, ram: 100 }, wish);
    if ('short' in first) throw new Error('it fits');
    expect(first.dropped.map(({ key }) => key)).toEqual(['d']);
    const correction = corrected(undefined, first.predicted, { flash: 1010, ram: 90 });
    expect(correction).toEqual({ flash: 50, ram: 0 });
    const second = chooseFit(costs, { flash: 960, ram: 100 }, { ...wish, correction });
    if ('short' in second) throw new Error('it fits');
    expect(second.predicted.flash).toBeLessThanOrEqual(960);
    expect(second.dropped.map(({ key }) => key)).not.toEqual(['d']);
  });
});

describe('what breaks a build', () => {
  const now = derive(factsOf(applyEdits(demoMachine('plover'), [overrideEdit('pause.on', false, 'x'), overrideEdit('change.on', false, 'x'), overrideEdit('park.lift', 7, 'x')]))); // prettier-ignore
  const before = [...derive(plover).values()];
  it('differs in these settings; a setting that was not known then does not', () => {
    expect(differingKeys(before, now).sort()).toEqual(['change.on', 'park.lift', 'pause.on']);
    expect(
      differingKeys(
        before.filter(({ key }) => key !== 'park.lift'),
        now,
      ),
    ).not.toContain('park.lift');
  });
  it('is tried with parts of them, each with what it needs', () => {
    const tried = settingsWith(before, now, ['change.on']);
    expect(tried.get('change.on')?.value).toBe(false);
    expect(tried.get('pause.on')?.value).toBe(false);
    expect(tried.get('park.lift')?.value).toBe(derive(plover).get('park.lift')?.value);
  });
});

describe('errors in plain words', () => {
  const folder = join(import.meta.dirname, '../../firmware/lantern/src');
  const guards = readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.[ch]$/.test(name))
    .flatMap((name) => [...readFileSync(join(folder, name), 'utf8').matchAll(/_Static_assert\(.*?"([^"]+)"/gs)].map(([, said = '']) => said)); // prettier-ignore
  it('every guard of the firmware belongs to a family with a remedy', () => {
    expect(guards.length).toBeGreaterThan(25);
    expect(guards.filter((message) => !explain({ message }))).toEqual([]);
  });
  it('a pin that is not defined, symbols that do not meet, a compiler that hangs: each says what to do', () => {
    expect(explain({ message: "use of undeclared identifier 'PIN_FILAMENT'" })?.what).toMatch(/no pin/);
    expect(explain({ message: 'excess elements in array initializer' })?.remedy).toMatch(/one delay/);
    expect(explain({ message: 'undefined symbol: map_take' })?.remedy).toMatch(/as they came/);
    expect(explain({ message: 'compiling a.c: it took longer than 30 s and was ended' })?.what).toMatch(
      /its end/,
    );
    expect(explain({ message: 'something else entirely' })).toBeUndefined();
  });
});

describe('what options need', () => {
  it('never comes back to itself, and names options that the kit has', () => {
    const keys = new Set(plover.kit.options.map(({ key }) => key));
    const reached = (key: string, seen: readonly string[] = []): string[] =>
      neededBy(key).flatMap((need) => {
        expect(seen).not.toContain(need);
        expect(keys.has(need), need).toBe(true);
        return [need, ...reached(need, [...seen, need])];
      });
    const all = [...keys].flatMap((key) => reached(key, [key]));
    expect(all.length).toBeGreaterThan(4);
  });
});
