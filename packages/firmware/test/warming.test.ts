import { check } from '@jolly/core/checks/checks';
import { applyEdits } from '@jolly/core/machine/edit';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { own, type Talk, workshop } from './fixtures/builtMachine';

const shops = ['plover', 'bittern', 'dunlin'].map((id) => [id, workshop(id)] as const);
const reason = ({ heard }: Talk) => heard.find((line) => line.startsWith('stopped'));
const highest = (facts: Facts): number => numberOf(derive(facts), 'heat.hotend.max');

describe('a hot end comes to every target it may be asked for, with the kit’s own control', () => {
  it.each(shops)('%s, as far as to the highest, and holds it', async (_, shop) => {
    const talk = await shop.powered();
    const most = highest(shop.facts());
    expect(talk.ask(`M109 S${most}`, 1200).at(-1)).toBe('done');
    const held = [...Array(60)].map(() => {
      talk.bench.advance(10);
      return talk.bench.truth().temperatureC['hotend'] ?? 0;
    });
    expect(reason(talk)).toBeUndefined();
    expect([Math.min(...held) > most - 4, Math.max(...held) < most + 5, Math.abs(held.at(-1)! - most) < 1]).toEqual([true, true, true]); // prettier-ignore
  });

  it.each(shops)('%s, with the shortest time of its guard that no check speaks of', async (_, shop) => {
    const { machine, catalogue } = shop.facts();
    const window = (s: number) => own('guard.hotend.rise-time', s);
    const trips = (s: number): boolean => {
      const facts = resolve(applyEdits(machine, [window(s)]), catalogue);
      if ('problems' in facts) throw new Error(JSON.stringify(facts.problems));
      return check(facts.facts, derive(facts.facts)).some(({ id }) => id === 'heat.guard-trips');
    };
    const shortest = [...Array(60).keys()].find((s) => s >= 5 && !trips(s))!;
    expect(trips(shortest - 1)).toBe(true);
    const talk = await shop.builtWith(window(shortest));
    expect(talk.ask(`M109 S${highest(shop.facts())}`, 1200).at(-1)).toBe('done');
    expect(reason(talk)).toBeUndefined();
  });
});

it('a sensor that slips out while the control creeps to its target is noticed as one that slips out before', async () => {
  const [, plover] = shops[0]!;
  const talk = await plover.powered();
  talk.ask('M104 S240');
  const isNear = () => (talk.bench.truth().temperatureC['hotend'] ?? 0) > 236;
  while (!isNear() && talk.bench.nowS() < 600) talk.bench.advance(1);
  expect(isNear()).toBe(true);
  talk.bench.change((live) => live.slipped.add('hotend-sensor'));
  const from = talk.bench.nowS();
  expect(talk.bench.advanceUntil(() => reason(talk) !== undefined, 300)).toBe(true);
  expect(reason(talk)).toBe('stopped: hotend does not follow its heater');
  expect(talk.bench.nowS() - from).toBeLessThan(120);
  expect(talk.bench.truth().temperatureC['hotend']).toBeLessThan(300);
});

describe('targets that change while it warms and cools', () => {
  const celsius = (from: number, to: number) => fc.integer({ min: from, max: to });

  it.each(shops)('%s: a target that is raised while it swings below a lower one is no fall', async (_, shop) => {
    for (const [high, low, waitS] of [[240, 180, 60], [210, 170, 50]] as const) {
      const talk = await shop.powered();
      talk.ask(`M109 S${high}`, 900);
      talk.ask(`M104 S${low}`);
      talk.bench.advance(waitS);
      expect(talk.bench.truth().temperatureC['hotend']).toBeLessThan(low - 3);
      expect(talk.ask(`M109 S${high}`, 900).at(-1)).toBe('done');
    }
  }); // prettier-ignore

  it.each(shops)('%s: no guard stops what works, whatever is asked for in turn', async (_, shop) => {
    const settings = derive(shop.facts());
    const target = fc.oneof(
      { weight: 5, arbitrary: celsius(60, highest(shop.facts())).map((c) => `M104 S${c}`) },
      { weight: 3, arbitrary: celsius(30, numberOf(settings, 'heat.bed.max')).map((c) => `M140 S${c}`) },
      { weight: 1, arbitrary: fc.constantFrom('M104 S0', 'M140 S0', 'M106 S255', 'M107') },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(target, celsius(2, 200)), { minLength: 8, maxLength: 14 }), async (asked) => {
        const talk = await shop.powered();
        for (const [line, waitS] of asked) {
          talk.ask(line);
          talk.bench.advance(waitS);
        }
        expect(reason(talk)).toBeUndefined();
      }),
      { numRuns: 8, seed: 7 },
    );
  }); // prettier-ignore
});
