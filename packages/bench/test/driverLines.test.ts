import { describe, expect, it } from 'vitest';
import { partsOf } from '@jolly/core/machine/facts';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { liveOf } from '../src';
import { Driver } from '../src/plant/driver';
import { driverLines } from '../src/plant/driverLines';

// What is told and asked, and the bits of a state, as the image's header has them.
const [CURRENT_MA, FORCE_FROM, STALL_LEVEL, STATE, DEGREES] = [0, 1, 2, 3, 4] as const;
const [HOT, OFF, OPEN] = [1, 2, 4];

const AXES = ['x', 'y', 'z', 'e'];
/** A demo machine's modules behind their lines, at the time that stands in `clock`. */
function lines(id: 'plover' | 'bittern', edit: (machine: ReturnType<typeof demoMachine>) => void = () => undefined) {
  const machine = demoMachine(id);
  edit(machine);
  const facts = factsOf(machine);
  const live = liveOf(facts);
  const motor = partsOf(facts, 'motor')[0]!.type;
  const modules = AXES.map((axis) => ({
    motorPart: `${axis}-motor`,
    driverPart: `${axis}-driver`,
    driver: new Driver(partsOf(facts, 'driver').find(({ id: part }) => part === `${axis}-driver`)!, motor, 24),
    on: () => true,
  }));
  const clock = { s: 0 };
  return { live, modules, clock, at: driverLines(live, modules, () => clock.s) };
} // prettier-ignore

describe('driver modules that listen', () => {
  it('each hears what is told at its own address of the line, and nobody at another', () => {
    const { at, modules } = lines('plover');
    for (const address of [0, 1, 2, 3]) at.tell(1, address, CURRENT_MA, 100 * (address + 1));
    at.tell(1, 4, CURRENT_MA, 900);
    at.tell(2, 0, CURRENT_MA, 900);
    at.tell(0, 0, CURRENT_MA, 900);
    expect(modules.map(({ driver }) => driver.amps())).toEqual([0.1, 0.2, 0.3, 0.4]);
    at.tell(1, 1, FORCE_FROM, 700);
    expect(modules.map(({ driver }) => driver.fullForceFrom())).toEqual([Infinity, 700, Infinity, Infinity]);
    expect([at.ask(1, 4, STATE), at.ask(2, 0, DEGREES), at.ask(0, 0, STATE)]).toEqual([-1, -1, -1]);
    expect([at.ask(1, 0, DEGREES), at.ask(1, 0, CURRENT_MA)]).toEqual([25, 0]);
  });
  it('others are spoken to by the pin that selects them', () => {
    const { at, modules } = lines('bittern');
    for (const pin of [100, 101, 102, 103]) at.tell(0, pin, CURRENT_MA, 650);
    for (const address of [0, 1, 2, 3]) at.tell(1, address, CURRENT_MA, 900);
    expect(modules.map(({ driver }) => driver.amps())).toEqual([0.9, 0.9, 0.65, 0.9]);
  });
  it('a level told to one is at what load it says that its motor stands', () => {
    const { at, modules } = lines('plover');
    at.tell(1, 0, STALL_LEVEL, 51);
    expect(modules.map(({ driver }) => driver.reportsStall(0.5))).toEqual([true, false, false, false]);
  });
  it('one whose jumper sets it apart hears nothing; where nobody has looked it stands right', () => {
    const apart = lines('plover', (machine) => (machine.jumpers = { 'MODE-M1': 'open' }));
    expect([apart.at.ask(1, 0, STATE), apart.at.ask(1, 1, STATE)]).toEqual([-1, 0]);
  });
  it('tells that it is hot above 120 °C, that it has shut down, that a winding is open, and nothing when it is dead', () => {
    const { at, modules, clock, live } = lines('plover');
    expect(at.ask(1, 0, STATE)).toBe(0);
    const [x] = modules;
    const most = partsOf(live.facts, 'driver')[0]!.type.max_a;
    x!.driver.forceAmps(most * Math.sqrt(100 / 95));
    clock.s = 2000;
    expect([at.ask(1, 0, STATE), at.ask(1, 0, DEGREES)]).toEqual([HOT, 125]);
    x!.driver.forceAmps(most * 1.2);
    clock.s = 4000;
    expect(at.ask(1, 0, STATE)).toBe(HOT! | OFF!);
    live.deadMotors.add('y-motor');
    expect(at.ask(1, 1, STATE)).toBe(OPEN);
    live.deadDrivers.add('y-driver');
    expect(at.ask(1, 1, STATE)).toBe(-1);
  });
});
