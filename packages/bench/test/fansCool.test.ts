import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { liveOf, plantOf } from '../src';
import { compileCircuit } from '../src/plant/circuit';

const ROOM = 21;
const PERIOD_US = 1000;
const facts = factsOf(demoMachine('plover'));
const idle = { closed: () => false, outputLow: () => false, ohms: () => 1e5, duty: () => 0 };
const circuit = compileCircuit(liveOf(facts), idle);

/** How much warmer than the room the hot end gets at a third of its power, while fans turn at a share of their speed. */
function riseWith(fans: Record<string, number>): number {
  const plant = plantOf(facts, 1, ROOM);
  for (const [part, share] of Object.entries({ ...fans, 'hotend-heater': 1 / 3 }))
    plant.pwm(0, circuit.pinAt(part, 'control')!, PERIOD_US, PERIOD_US * share);
  return plant.view(1e5).temperatureC['hotend']! - ROOM;
}

describe('fans take warmth off the hot end', () => {
  const still = riseWith({});
  it.each([
    ['its own alone', { 'hotend-fan': 1 }, 0.05],
    ["the part's alone", { 'part-fan': 1 }, 0.12],
    ['both at once', { 'hotend-fan': 1, 'part-fan': 1 }, 0.17],
    ['as fast as they turn', { 'hotend-fan': 1, 'part-fan': 0.5 }, 0.11],
  ])('%s', (_name, fans, share) => {
    expect(still / riseWith(fans)).toBeCloseTo(1 + share, 6);
  });
});
