import { partFor } from '@jolly/core/machine/facts';
import type { PartOf } from '@jolly/core/parts/part';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { Driver } from '../src/plant/driver';

const plover = factsOf(demoMachine('plover'));
const placed = partFor(plover, 'driver', 'x')!;
const motor: PartOf<'motor'> = { ...partFor(plover, 'motor', 'x')!.type, ohms: 2 };
const VOLTS = 24;

function driver(changes: Partial<PartOf<'driver'>> = {}): Driver {
  return new Driver({ ...placed, type: { ...placed.type, max_a: 2, ...changes } }, motor, VOLTS);
}

describe('a driver', () => {
  it('gives what its pot says, what it is told up to its most, and what a fault makes of it before all else', () => {
    const at = driver();
    at.setAmps(0.6);
    expect(at.amps()).toBe(0.6);
    at.tellAmps(1.1);
    expect(at.amps()).toBe(1.1);
    at.setAmps(0.7);
    expect(at.amps()).toBe(1.1);
    at.tellAmps(5);
    expect(at.amps()).toBe(2);
    at.forceAmps(0.2);
    at.tellAmps(1);
    expect(at.amps()).toBe(0.2);
    at.forceAmps(undefined);
    expect(at.amps()).toBe(1);
  });

  // 0.33 N·m of holding torque for each ampere; three quarters of it while it turns, of these three quarters while quiet.
  it('pulls by its current, less while it is quiet, and less the faster it turns', () => {
    const at = driver({ mode: 'stand-alone' });
    at.setAmps(1);
    expect(at.torque(10, 100)).toBeCloseTo(0.2475, 6);
    at.forceFrom(500);
    expect(at.torque(10, 499)).toBeCloseTo(0.185625, 6);
    expect(at.torque(10, 500)).toBeCloseTo(0.2475, 6);
    // The current no longer comes up: 24 V / (4 × 1.2 ms × 2 Ω × 1 A) = 2500 full steps a second.
    expect(at.torque(2500, 1000)).toBeCloseTo(0.2475, 6);
    expect(at.torque(5000, 1000)).toBeCloseTo(0.12375, 6);
    at.setAmps(0.5);
    expect(at.torque(5000, 1000)).toBeCloseTo(0.12375, 6);
    expect(driver({ mode: 'serial' }).torque(10, 1e9)).toBe(0);
  });

  it('one that is told nothing over its line stays quiet', () => {
    const at = driver({ mode: 'serial' });
    at.setAmps(1);
    expect(at.torque(10, 1e6)).toBeCloseTo(0.185625, 6);
  });

  it('says that its motor stands when the load passes the level, in 255ths, if it can say so at all', () => {
    const at = driver({ stall: true });
    expect(at.reportsStall(1)).toBe(false);
    at.stallLevel(51);
    expect([at.reportsStall(0.2), at.reportsStall(0.21)]).toEqual([false, true]);
    const deaf = driver({ stall: false });
    deaf.stallLevel(51);
    expect(deaf.reportsStall(1)).toBe(false);
  });

  it('warms by the square of its current, shuts down above 150 °C and works again below 130 °C', () => {
    const at = driver();
    at.setAmps(1);
    at.warm(0.2, true);
    expect(at.temperatureC()).toBe(25);
    at.warm(40, true);
    expect(at.temperatureC()).toBeCloseTo(25 + (95 / 4) * (1 - Math.exp(-1)), 6);
    at.warm(1000, true);
    expect(at.temperatureC()).toBeCloseTo(48.75, 3);
    at.warm(2000, false);
    expect(at.temperatureC()).toBeCloseTo(25, 3);
    at.forceAmps(2.4);
    at.warm(3000, true);
    expect(at.temperatureC()).toBeCloseTo(25 + 95 * 1.44, 3);
    expect(at.shutDown()).toBe(true);
    at.warm(3005, true);
    expect([at.temperatureC() > 130, at.shutDown()]).toEqual([true, true]);
    at.warm(3015, true);
    expect([at.temperatureC() < 130, at.shutDown()]).toEqual([true, false]);
  });
});
