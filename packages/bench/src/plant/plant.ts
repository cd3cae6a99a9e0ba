import { type Facts, partFor } from '@jolly/core/machine/facts';
import { type Axis, type MotorAxis, SECOND_HOTEND, type Warmed } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import type { Driven } from '../board/runs';
import { bodiesOf } from './bodies';
import type { Doing } from './pinHolds';
import { Contacts } from './contacts';
import { type DriverLines, driverLines } from './driverLines';
import { Filament } from './filament';
import { Frame } from './frame';
import { Inputs } from './inputs';
import { type Live, liveOf } from './live';
import { Movement } from './movement';
import { Nozzle, type PlateHeight } from './nozzle';
import { Outputs } from './outputs';
import { Pins } from './pins';
import { PlantClock } from './plantClock';
import { plantTruth, plantView, type Sights } from './plantView';
import { probeOf } from './probe';
import { seededRandom } from './random';
import { reallyOf } from './really';
import { sagOf } from './sag';
import { screwLift } from './screwLift';
import { plateSurface, type Surface } from './surface';
import type { Beginning, PlantView, Truth } from './truth';

/** The machine around the board. Time is in seconds of the virtual clock. */
export interface Plant extends Driven {
  pins: Pins;
  /** The modules that listen. */
  drivers: DriverLines;
  live: Live;
  /** What was done to it takes effect. */
  rewire(now: number): void;
  /** The power goes: nothing is driven any more. */
  off(now: number): void;
  motor(index: number, stepPin: number, dirPin: number, pulseNs: number, setupNs: number): void;
  pwm(now: number, pin: number, periodUs: number, highUs: number): void;
  write(now: number, pin: number, high: boolean): void;
  /** What time it is when a pin is looked at. */
  tell(now: number): void;
  readPin(pin: number): boolean;
  adc(now: number, pin: number): number;
  view(now: number): PlantView;
  /** Height of the plate at a place of it, in mm, as warm as it is; undefined beside it. */
  plateAt(x: number, y: number): number | undefined;
  truth(now: number): Truth;
}

/** A plate on its springs gives so far before the axis stands. */
const PLATE_GIVES_MM = 3;
/** A driver that is told nothing and whose current nobody knows has this. */
const USUAL_AMPS = 0.6;

/**
 * The machine as its facts describe it; the seed decides what facts leave open (where it stands, the plate's shape).
 * @param begins where it stood and how warm it was when its power went, if it had any before
 */
export function plantOf(facts: Facts, seed: number, ambientC = 21, begins?: Beginning): Plant {
  const random = seededRandom(seed);
  const clock = new PlantClock();
  const pins = new Pins();
  const live = liveOf(facts);
  const anywhere = placeWithin(facts, random);
  const surface = plateSurface(facts.machine.frame.bed_mm, random);
  const bodies = bodiesOf(live, ambientC, begins);
  const warm = (body: Warmed) => clock.nowAndThen((now) => bodies.temperatureC(body, now) ?? ambientC);
  const plate = plateHeight(live, surface, warm('bed'));
  const floor = (x: number, y: number) => (plate(x, y) ?? -Infinity) - PLATE_GIVES_MM;
  const sag = sagOf(facts, random);
  const frame = new Frame(live, pins, begins?.position ?? anywhere, ampsAtFirst(facts), floor, sag);
  const nozzle = new Nozzle(facts, frame, plate);
  const really = reallyOf(facts, seed);
  const probe = probeOf(live, (beside) => nozzle.gap(beside), seed, really);
  const contacts = new Contacts(live, frame, probe, clock);
  const doing: Doing = {
    closed: (partId) => contacts.closed(partId),
    outputLow: (partId) => contacts.outputLow(partId),
    ohms: (partId) => bodies.ohms(partId, clock.now),
    duty: (pin) => pins.duty(pin),
  };
  const outputs = new Outputs(live, pins, doing, bodies, probe, clock);
  const inputs = new Inputs(facts, pins, outputs, frame, clock, seededRandom(seed ^ 0x5eed));
  const [filament, secondFilament] = [new Filament(), new Filament()];
  const movement = new Movement(
    clock,
    frame,
    nozzle,
    { filament, hotendC: warm('hotend'), bite: really.bite },
    { filament: secondFilament, hotendC: warm(SECOND_HOTEND), bite: really.secondBite },
  );
  const sights: Sights = {
    facts,
    frame,
    bodies,
    contacts,
    probe,
    nozzle,
    outputs,
    filament,
    secondFilament,
  };
  const view = (now: number) => clock.look(now, () => plantView(sights, now));
  return {
    pins,
    live,
    drivers: driverLines(live, frame.modules(), () => clock.now),
    rewire(now) {
      clock.now = now;
      frame.refresh();
      outputs.rewire();
    },
    off(now) {
      clock.now = now;
      outputs.off();
    },
    motor: (index, stepPin, dirPin, pulseNs, setupNs) =>
      frame.motor(index, stepPin, dirPin, pulseNs, setupNs),
    move: (pulses, entries, seconds, at) => movement.move(pulses, entries, seconds, at),
    mark: () => movement.mark(),
    rewind: () => movement.rewind(),
    tell: (now) => void (clock.now = now),
    pwm(now, pin, periodUs, highUs) {
      clock.now = now;
      outputs.pwm(pin, periodUs, highUs);
    },
    write(now, pin, high) {
      clock.now = now;
      outputs.write(pin, high);
    },
    readPin: (pin) => inputs.read(pin),
    adc(now, pin) {
      clock.now = now;
      return inputs.adc(pin);
    },
    view,
    plateAt: (x, y) => clock.look(clock.now, () => plate(x, y)),
    truth: (now) => plantTruth(sights, view(now), now),
  };
}

/** Somewhere in the lower half of its travel. */
function placeWithin({ machine }: Facts, random: () => number): Record<Axis, number> {
  const place = ([low, high]: readonly [number, number]) => low + (0.15 + 0.3 * random()) * (high - low);
  const { x, y, z } = machine.frame.travel_mm;
  return { x: place(x), y: place(y), z: place(z) };
}

/** Height of the plate at a place of it, with what its screws lift. */
function plateHeight(live: Live, surface: Surface, plateC: () => number): PlateHeight {
  const lift = screwLift(live);
  const { x: across, y: along } = live.facts.machine.frame.bed_mm;
  const within = (at: number, [low, high]: readonly [number, number]) => at >= low && at <= high;
  return (x, y) => (within(x, across) && within(y, along) ? surface(x, y, plateC()) + lift(x, y) : undefined);
}

/** The current each axis' driver has before it is told one: a module on a line keeps what it wakes up with. */
function ampsAtFirst(facts: Facts): (axis: MotorAxis) => number {
  const settings = derive(facts);
  return (axis) => {
    const driver = partFor(facts, 'driver', axis);
    if (driver && driver.type.mode !== 'stand-alone') return driver.type.max_a / 2;
    return Number(settings.get(`current.${axis}`)?.value ?? USUAL_AMPS);
  };
}
