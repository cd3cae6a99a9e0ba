import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { benchOhms, benchVolts, FAULTS, handsAt, liveOf } from '../src';
import { standsIn, withAct, type HandAct } from '@jolly/core/bringup/handAct';

const facts = factsOf(demoMachine('dunlin'));
const plan = (id: string): string[] => {
  const landing = facts.parts.find((part) => part.id === id)?.landing;
  return landing && 'leads' in landing ? Object.values(landing.leads) : [];
};
const at = (id: string, hands: HandAct[] = [], more: { pressed?: boolean } = {}) => {
  const [from = '', to = ''] = plan(id);
  return benchOhms(facts, hands, { from, to, part: id, ...more });
};

describe('hands at a machine', () => {
  it('what is taken back leaves the machine as its facts say', () => {
    const hands = handsAt(facts);
    const acts: [HandAct, HandAct][] = [
      [
        { hold: 'x-switch', on: true },
        { hold: 'x-switch', on: false },
      ],
      [
        { warm: 'bed', c: 50 },
        { warm: 'bed', c: null },
      ],
      [
        { cool: 'hotend', share: 9 },
        { cool: 'hotend', share: 0 },
      ],
      [
        { pull: 'x-switch.signal', out: true },
        { pull: 'x-switch.signal', out: false },
      ],
      ...FAULTS.map(({ name }): [HandAct, HandAct] => [
        { lay: name, on: true },
        { lay: name, on: false },
      ]),
    ];
    for (const [does, back] of acts) {
      hands.take(does);
      expect(hands.acts()).toHaveLength(1);
      hands.take(back);
      const live = liveOf(facts);
      hands.apply(live);
      expect(live).toEqual(liveOf(facts));
    }
  });
  it('an act takes the place of one of its kind, and is done again as it stands', () => {
    const acts = withAct(withAct([], { warm: 'bed', c: 40 }), { warm: 'bed', c: 50 });
    expect(acts).toEqual([{ warm: 'bed', c: 50 }]);
    expect(standsIn(acts, { warm: 'bed', c: 1 })).toBe(true);
    const hands = handsAt(facts);
    hands.take({ lay: 'heaters-exchanged', on: true });
    const again = handsAt(facts);
    for (const act of hands.acts()) again.take(act);
    const [one, other] = [liveOf(facts), liveOf(facts)];
    hands.apply(one);
    again.apply(other);
    expect(one.leads).toEqual(other.leads);
  });
  it.each([
    [{ hold: 'nothing', on: true }, 'there is no part "nothing"'],
    [{ warm: 'x-motor', c: 30 }, 'neither heater, sensor'],
    [{ pull: 'x-switch.control', out: true }, 'has no lead "control"'],
    [{ lay: 'bad-luck', on: true }, 'there is no fault "bad-luck"'],
  ] as [HandAct, string][])('%j is refused in words', (act, why) => {
    expect(() => handsAt(facts).take(act)).toThrow(why);
  });
});

describe('the meter of the bench', () => {
  it('shows what a healthy machine has', () => {
    expect(at('hotend-heater')).toBeCloseTo(14.4, 1);
    expect(at('x-switch', [], { pressed: true })).not.toBe(at('x-switch'));
    expect(benchVolts(facts, [], '5v')).toBe(5);
    expect(benchOhms(facts, [], { from: 'M1 a1', to: 'M1 a2', part: 'x-motor' })).toBeLessThan(10);
  });
  it('and what a fault makes of it', () => {
    const bed = at('bed-heater');
    expect(at('hotend-heater', [{ lay: 'heaters-exchanged', on: true }])).toBeCloseTo(bed, 3);
    expect(at('hotend-sensor', [{ lay: 'sensor-open', on: true }])).toBe(Infinity);
    expect(at('hotend-sensor', [{ lay: 'sensor-short', on: true }])).toBeLessThan(1);
    expect(at('x-switch', [{ pull: 'x-switch', out: true }], { pressed: true })).toBe(Infinity);
    expect(benchVolts(facts, [{ lay: 'jumper-missing', on: true }], '5v')).toBe(0);
    const crossed: HandAct[] = [{ lay: 'coil-crossed', on: true }];
    expect(benchOhms(facts, crossed, { from: 'M1 a1', to: 'M1 a2', part: 'x-motor' })).toBe(Infinity);
  });
});
