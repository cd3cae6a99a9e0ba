import { thermistorOhms } from '@jolly/core/heat/thermistor';
import { partFor } from '@jolly/core/machine/facts';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { liveOf } from '../src';
import { bodiesOf } from '../src/plant/bodies';
import type { Circuit } from '../src/plant/circuit';

const ROOM = 20;
const SENSOR = 'hotend-sensor';
const facts = () => factsOf(demoMachine('plover'));
/** Plover's bodies, cooling from what they were. */
function warmFrom(hotend: number, offS = 0) {
  const live = liveOf(facts());
  const type = live.thermistors.get(SENSOR)!;
  return { live, at: bodiesOf(live, ROOM, { temperatureC: { hotend }, offS } as never), ohmsAt: (c: number) => thermistorOhms(type, c) }; // no more of it is asked
} // prettier-ignore
/** Outputs that feed every heater so many volts for a share of the time. */
const feeding = (volts: number, share: number) => ({ fed: () => ({ volts, share }) }) as unknown as Circuit; // as above

describe('a sensor', () => {
  it('has the ohms of its body’s warmth; torn off nearly none, or more than anything', () => {
    const { live, at, ohmsAt } = warmFrom(ROOM);
    expect(at.ohms(SENSOR, 0)).toBeCloseTo(ohmsAt(ROOM), 6);
    live.broken.set(SENSOR, 'short');
    expect(at.ohms(SENSOR, 1)).toBe(0.2);
    live.broken.set(SENSOR, 'open');
    expect(at.ohms(SENSOR, 2)).toBe(1e9);
    expect(at.ohms('nobody', 2)).toBe(1e9);
  });
  it('lags behind its body, and beside it feels little of its warmth', () => {
    const { live, at, ohmsAt } = warmFrom(200);
    expect(at.ohms(SENSOR, 0)).toBeCloseTo(ohmsAt(200), 6);
    live.slipped.add(SENSOR);
    const near = (now: number) => ROOM + 0.08 * (at.temperatureC('hotend', now)! - ROOM);
    const felt = near(0.7) + (200 - near(0.7)) * Math.exp(-1);
    expect(at.ohms(SENSOR, 0.7)).toBeCloseTo(ohmsAt(felt), 3);
    expect(at.ohms(SENSOR, 60)).toBeCloseTo(ohmsAt(near(60)), 3);
  });
  it('that is held at a warmth has that, and so has one whose body is', () => {
    const { live, at, ohmsAt } = warmFrom(200);
    live.warmed.set('hotend', 90);
    expect([at.temperatureC('hotend', 5), at.ohms(SENSOR, 5)]).toEqual([90, ohmsAt(90)]);
    live.warmed.set(SENSOR, 40);
    expect(at.ohms(SENSOR, 6)).toBe(ohmsAt(40));
  });
  it('with a loose contact has up to a third more, by jerks, the same whenever one looks', () => {
    const { live, at, ohmsAt } = warmFrom(ROOM);
    live.jumps.add(SENSOR);
    const more = Array.from({ length: 400 }, (_, nth) => at.ohms(SENSOR, nth * 0.4 + 0.1) / ohmsAt(ROOM) - 1);
    expect(Math.min(...more)).toBeGreaterThanOrEqual(-1e-9);
    expect(Math.max(...more)).toBeGreaterThan(0.3);
    expect(Math.max(...more)).toBeLessThanOrEqual(0.35);
    // Mostly it holds: the middle one of cubes of what lies evenly between 0 and 1 is an eighth.
    expect([...more].sort((a, b) => a - b)[200]! / 0.35).toBeCloseTo(0.125, 1);
    expect(at.ohms(SENSOR, 8.05)).toBe(at.ohms(SENSOR, 8.3));
  });
});

describe('a heated body', () => {
  const heater = partFor(facts(), 'heater', 'hotend')!.type;
  const warms = heater.body!;
  it('has cooled while the power was off, by its own time', () => {
    const { at } = warmFrom(200, warms.tau_s);
    expect(at.temperatureC('hotend', 0)).toBeCloseTo(ROOM + 180 * Math.exp(-1), 6);
  });
  it('settles by the square of its volts, by its duty, and by what takes heat away', () => {
    const settled = (volts: number, share: number, chill = 0, blown = 0) => {
      const { live, at } = warmFrom(ROOM);
      live.chilled.set('hotend', chill);
      at.blow('hotend', blown);
      at.drive(feeding(volts, share), 0);
      return [at.temperatureC('hotend', 1e6)! - ROOM, at.duty('hotend')] as const;
    };
    const [full, duty] = settled(heater.volts, 1);
    expect(full).toBeCloseTo(warms.gain_c, 3);
    expect(duty).toBe(1);
    expect(settled(heater.volts, 0.25)[0]).toBeCloseTo(full / 4, 3);
    expect(settled(heater.volts, 0.25)[1]).toBe(0.25);
    expect(settled(heater.volts / 2, 1)[0]).toBeCloseTo(full / 4, 3);
    expect(settled(heater.volts, 1, 3)[0]).toBeCloseTo(full / 4, 3);
    expect(settled(heater.volts, 1, 1, 2)[0]).toBeCloseTo(full / 4, 3);
  });
  it('that nobody has seen warm warms as one of its watts usually does', () => {
    const unseen = facts();
    const part = unseen.parts.find(({ id }) => id === 'hotend-heater')!;
    part.type = { ...part.type, body: undefined } as never; // a heater without what was measured of it
    const at = bodiesOf(liveOf(unseen), ROOM);
    at.drive(feeding(heater.volts, 1), 0);
    expect(at.temperatureC('hotend', 1e6)! - ROOM).toBeCloseTo(heater.watts * 8.5, 2);
    expect(at.temperatureC('hotend', 183)! - ROOM).toBeCloseTo(heater.watts * 8.5 * (1 - Math.exp(-1)), 1);
    expect(at.temperatureC('hotend', 2.9)).toBeCloseTo(ROOM, 6);
  });
  it('is there for each heater with a sensor', () => {
    expect(bodiesOf(liveOf(facts()), ROOM).names()).toEqual(['hotend', 'bed']);
  });
});
