import { check } from '@jolly/core/checks/checks';
import { applyEdits } from '@jolly/core/machine/edit';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { numberOf } from '@jolly/core/settings/setting';
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
  const near = () => (talk.bench.truth().temperatureC['hotend'] ?? 0) > 236;
  expect(talk.bench.advanceUntil(near, 600)).toBe(true);
  talk.bench.change((live) => live.slipped.add('hotend-sensor'));
  const from = talk.bench.nowS();
  expect(talk.bench.advanceUntil(() => reason(talk) !== undefined, 300)).toBe(true);
  expect(reason(talk)).toBe('stopped: hotend does not follow its heater');
  expect(talk.bench.nowS() - from).toBeLessThan(120);
  expect(talk.bench.truth().temperatureC['hotend']).toBeLessThan(300);
});
