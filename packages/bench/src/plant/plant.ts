import { type Facts, partFor, partsOf, type PlacedPart } from '@jolly/core/machine/facts';
import { type Axis, AXES, type MotorAxis, SECOND_HOTEND, type Warmed } from '@jolly/core/machine/machine';
import type { PartOf } from '@jolly/core/parts/part';
import { derive } from '@jolly/core/settings/derive';
import type { Driven } from '../board/runs';
import { bodiesOf } from './bodies';
import { type Circuit, compileCircuit } from './circuit';
import { fanSpeed, lampLight } from './oneWayLoads';
import { Filament } from './filament';
import { type DriverLines, driverLines } from './driverLines';
import { Frame } from './frame';
import { type Live, liveOf } from './live';
import { Pins } from './pins';
import { motorsWarm } from './motorsWarm';
import { nozzleState } from './nozzleState';
import { probeOf } from './probe';
import { seededRandom } from './random';
import { reallyOf } from './really';
import { sagOf } from './sag';
import { screwLift } from './screwLift';
import { stallLinesOf } from './stallLines';
import { plateSurface } from './surface';
import type { Beginning, PlantView, Truth } from './truth';

/** No motor steps so fast. */
const NEVER_RATE = 1e9;

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

/** A pin reads high above the first share of its chip's level, low below the second, and anything between. */
const HIGH_FROM = 0.6;
const LOW_BELOW = 0.3;
/** A plate on its springs gives so far before the axis stands. */
const PLATE_GIVES_MM = 3;
/** Counts an ADC wanders by. */
const ADC_NOISE = 1.2;
/** No place of a plate stands higher above the low end of Z than this. */
const PLATE_WITHIN_MM = 1;
/** A nozzle that keeps its height is looked at so often, in s; what warms slowly, too. */
const LOOKED_AT_S = 0.01;
const WARMS_SLOWLY_S = 0.2;
/** What a fan at full speed takes off a body, as a share of its own losses. */
const BLOWN: Record<string, [Warmed, number]> = { part: ['hotend', 0.12], hotend: ['hotend', 0.05] };

/**
 * The machine as its facts describe it; the seed decides what facts leave open (where it stands, the plate's shape).
 * @param begins where it stood and how warm it was when its power went, if it had any before
 */
export function plantOf(facts: Facts, seed: number, ambientC = 21, begins?: Beginning): Plant {
  const random = seededRandom(seed);
  const noise = seededRandom(seed ^ 0x5eed);
  const pins = new Pins();
  const live = liveOf(facts);
  const { travel_mm: travel, bed_mm: bed } = facts.machine.frame;
  const place = (axis: Axis) =>
    travel[axis][0] + (0.15 + 0.3 * random()) * (travel[axis][1] - travel[axis][0]);
  const anywhere = { x: place('x'), y: place('y'), z: place('z') };
  const start = begins?.position ?? anywhere;
  const surface = plateSurface(bed, random);
  const bodies = bodiesOf(live, ambientC, begins);
  const really = reallyOf(facts, seed);
  const lift = screwLift(live);
  const fed = new Filament();
  const secondFed = new Filament();
  const settings = derive(facts);
  const amps = (axis: MotorAxis) => {
    const driver = partFor(facts, 'driver', axis);
    // A module on a line that nobody speaks to keeps the current it wakes up with.
    if (driver && driver.type.mode !== 'stand-alone') return driver.type.max_a / 2;
    return Number(settings.get(`current.${axis}`)?.value ?? 0.6);
  };
  let clock = 0;
  let nozzleInPlateMm = 0;
  const highest = facts.machine.frame.travel_mm.z[0] + PLATE_WITHIN_MM;
  let draggedAt: { x: number; y: number } | undefined;
  let dragged = false;
  let notedZ = NaN;
  let notedAt = 0;

  let looked = false;
  /** Looking changes nothing: what the machine goes by is as it was before. */
  const look = <T>(now: number, see: () => T): T => {
    const before = clock;
    clock = now;
    looked = true;
    const seen = see();
    looked = false;
    clock = before;
    return seen;
  };
  /** A temperature that needs not be worked out for every stretch of steps. */
  const nowAndThen = (body: Warmed) => {
    let c = ambientC;
    let at = -1;
    return (): number => {
      if (!looked && Math.abs(clock - at) < WARMS_SLOWLY_S) return c;
      const now = bodies.temperatureC(body, clock) ?? ambientC;
      if (looked) return now;
      at = clock;
      return (c = now);
    };
  };
  const plateC = nowAndThen('bed');
  const nozzleC = nowAndThen('hotend');
  const secondNozzleC = nowAndThen(SECOND_HOTEND);
  const overBed = (x: number, y: number) => x >= bed.x[0] && x <= bed.x[1] && y >= bed.y[0] && y <= bed.y[1];
  const heightAt = (x: number, y: number) =>
    overBed(x, y) ? surface(x, y, plateC()) + lift(x, y) : undefined;
  const frame = new Frame(
    live,
    pins,
    start,
    amps,
    (x, y) => (heightAt(x, y) ?? -Infinity) - PLATE_GIVES_MM,
    sagOf(facts, random),
  );
  /** A gantry on two motors that do not stand level is higher on one side. */
  const middle = (travel.x[0] + travel.x[1]) / 2;
  const leans = (x: number) => (frame.tilt() * (x - middle)) / (travel.x[1] - travel.x[0]);
  const gap = (beside: { x: number; y: number }) => {
    const below = heightAt(frame.position('x') + beside.x, frame.position('y') + beside.y);
    return below === undefined ? undefined : frame.position('z') + leans(frame.position('x')) - below;
  };
  const probe = probeOf(live, gap, seed, really);
  const switches = new Map(partsOf(facts, 'switch').map((part) => [part.id, part]));
  const reached = new Map(partsOf(facts, 'switch').map(({ id, role }) => [id, switchAt(facts, frame, role)]));
  const pressed = ({ id }: PlacedPart<PartOf<'switch'>>): boolean =>
    live.held.has(id) || reached.get(id)?.() === true;
  const filamentGone = (partId: string) => live.held.has(partId);

  const doing = {
    closed(partId: string): boolean {
      const part = switches.get(partId);
      if (part) {
        const open = part.type.contact === 'normally-open';
        return pressed(part) === (open !== live.otherContact.has(partId));
      }
      if (probe?.part.id === partId) return probe.triggered(clock);
      return !filamentGone(partId);
    },
    outputLow(partId: string): boolean {
      const part = switches.get(partId);
      if (part) return (pressed(part) === (part.type.pressed === 'low')) !== live.otherContact.has(partId);
      if (probe?.part.id === partId) return probe.triggered(clock) === (probe.part.type.triggered === 'low');
      return !filamentGone(partId);
    },
    ohms: (partId: string) => bodies.ohms(partId, clock),
    duty: (pin: number) => pins.duty(pin),
  };
  let circuit: Circuit = compileCircuit(live, doing);
  const beeperPin = facts.board.uses?.find(({ by }) => by === 'beeper')?.pins[0];
  let beeperHz = 0;
  const periods = new Map<number, number>();
  const stallLines = stallLinesOf(facts);
  let servoPins = servosOf(circuit);
  const servoUs = new Map<number, number>();

  function servosOf(now: Circuit): Map<number, string> {
    const parts = [...partsOf(facts, 'probe'), ...partsOf(facts, 'servo')];
    return new Map(
      parts.flatMap(({ id }): [number, string][] => {
        const pin = now.pinAt(id, 'control');
        return pin === undefined ? [] : [[pin, id]];
      }),
    );
  }

  const fans = partsOf(facts, 'fan');
  const blown = (body: Warmed): number =>
    fans.reduce((sum, part) => {
      const [at, share] = BLOWN[part.role] ?? [];
      return at === body ? sum + (share ?? 0) * fanSpeed(part, circuit, live) : sum;
    }, 0);

  const cycleS = (partId: string): number => (periods.get(circuit.pinAt(partId, 'control') ?? -1) ?? 0) / 1e6;

  function outputsChanged(now: number): void {
    for (const body of bodies.names()) bodies.blow(body, blown(body));
    bodies.drive(circuit, now);
  }

  function noteNozzle(): void {
    const below = gap({ x: 0, y: 0 });
    if (below === undefined) return;
    nozzleInPlateMm = Math.max(nozzleInPlateMm, -below);
    const here = { x: frame.position('x'), y: frame.position('y') };
    if (below <= 0 && draggedAt && (draggedAt.x !== here.x || draggedAt.y !== here.y)) dragged = true;
    draggedAt = below <= 0 ? here : undefined;
    if (below > 0) dragged = false;
  }

  const view = (now: number): PlantView =>
    look(now, () => ({
      position: eachMotor((axis) => frame.position(axis)),
      secondFilamentMm: frame.secondFilament(),
      secondFedMm: secondFed.fed(),
      temperatureC: Object.fromEntries(bodies.names().map((name) => [name, bodies.temperatureC(name, now)])),
      pressed: Object.fromEntries([...switches.values()].map((part) => [part.id, pressed(part)])),
      ...(probe && {
        probe: { deployed: probe.deployed(now), triggered: probe.triggered(now), beside: probe.beside },
      }),
      blocked: frame.blocked(),
      hums: frame.humming(),
      motorsC: motorsWarm(facts, frame),
      nozzleInPlateMm,
      underNozzleMm: gap({ x: 0, y: 0 }) ?? null,
      filamentMm: fed.fed(),
      fans: Object.fromEntries(fans.map((part) => [part.id, fanSpeed(part, circuit, live)])),
      lamps: Object.fromEntries(partsOf(facts, 'lamp').map((part) => [part.id, lampLight(part, circuit)])),
      beeperHz,
      servos: Object.fromEntries([...servoPins].map(([pin, id]) => [id, servoUs.get(pin) ?? 0])),
    }));

  return {
    pins,
    drivers: driverLines(live, frame.modules(), () => clock),
    live,
    rewire(now) {
      clock = now;
      circuit = compileCircuit(live, doing);
      servoPins = servosOf(circuit);
      frame.refresh();
      for (const [pin, us] of servoUs) if (servoPins.get(pin) === probe?.part.id) probe?.servo(us, now);
      outputsChanged(now);
    },
    off(now) {
      clock = now;
      pins.reset();
      outputsChanged(now);
    },
    motor: (index, stepPin, dirPin, pulseNs, setupNs) =>
      frame.motor(index, stepPin, dirPin, pulseNs, setupNs),
    move(pulses, entries, seconds, at) {
      clock = at;
      const before = frame.position('e');
      const secondBefore = frame.secondFilament();
      frame.move(pulses, entries, seconds, clock);
      const way = frame.position('e') - before;
      if (way !== 0) fed.feed(way * really.bite, nozzleC(), clock);
      const second = frame.secondFilament() - secondBefore;
      if (second !== 0) secondFed.feed(second * really.secondBite, secondNozzleC(), clock);
      const z = frame.position('z');
      if (z >= highest || (z === notedZ && at - notedAt < LOOKED_AT_S)) return;
      notedZ = z;
      notedAt = at;
      noteNozzle();
    },
    mark: () => frame.mark(),
    rewind: () => frame.rewind(),
    tell: (now) => void (clock = now),
    pwm(now, pin, periodUs, highUs) {
      clock = now;
      pins.setPwm(pin, periodUs === 0 ? 0 : highUs / periodUs);
      periods.set(pin, periodUs);
      if (pin === beeperPin) beeperHz = highUs === 0 ? 0 : 1e6 / periodUs;
      if (servoPins.has(pin)) {
        servoUs.set(pin, highUs);
        if (servoPins.get(pin) === probe?.part.id) probe?.servo(highUs, now);
        return;
      }
      outputsChanged(now);
    },
    write(now, pin, high) {
      clock = now;
      const before = pins.duty(pin);
      pins.write(pin, high);
      if (before !== pins.duty(pin)) outputsChanged(now);
    },
    readPin(pin) {
      if (pins.isOutput(pin)) return pins.level(pin);
      const socket = stallLines.get(pin);
      if (socket !== undefined) return frame.stalled(socket, clock);
      const volts = circuit.volts(pin, pins.pulledUp(pin));
      const share = (volts ?? NaN) / facts.chip.level_v;
      if (share >= HIGH_FROM) return true;
      if (share <= LOW_BELOW) return false;
      return noise() < 0.5;
    },
    adc(now, pin) {
      clock = now;
      const full = 2 ** facts.chip.adc_bits - 1;
      const share =
        (circuit.volts(pin, pins.pulledUp(pin)) ?? facts.chip.level_v * noise()) / facts.chip.level_v;
      const wander = (noise() + noise() - 1) * ADC_NOISE * (full / 4095);
      return Math.round(
        Math.min(full, Math.max(0, full * share + (share > 0.001 && share < 0.999 ? wander : 0))),
      );
    },
    view,
    plateAt: (x, y) => look(clock, () => heightAt(x, y)),
    truth: (now) => {
      const seen = view(now);
      const above = seen.underNozzleMm;
      return {
        ...seen,
        lost: frame.lost(),
        duty: Object.fromEntries(bodies.names().map((name) => [name, bodies.duty(name)])),
        cycleS: Object.fromEntries(partsOf(facts, 'heater').map(({ id }) => [id, cycleS(id)])),
        nozzleAbovePlateMm: above,
        nozzle: nozzleState(above ?? undefined, dragged),
        tiltMm: frame.tilt(),
        drivers: Object.fromEntries(
          [...frame.drivers()].map(([axis, driver]) => {
            return [
              axis,
              {
                temperatureC: driver.temperatureC(),
                shutDown: driver.shutDown(),
                amps: driver.amps(),
                fullForceFrom: Math.min(driver.fullForceFrom(), NEVER_RATE),
              },
            ];
          }),
        ),
        filament: { fedMm: fed.fed(), slippedMm: fed.slipped(), ground: fed.ground(), outMm: fed.out(now) },
      };
    },
  };
}

const eachMotor = (of: (axis: MotorAxis) => number): Record<MotorAxis, number> => ({
  x: of('x'),
  y: of('y'),
  z: of('z'),
  e: of('e'),
});

/** Whether an axis has reached the end that has its switch. */
function switchAt(facts: Facts, frame: Frame, role: string): () => boolean {
  const axis = AXES.find((entry) => entry === role);
  const side = axis && facts.machine.frame.switch_at[axis];
  if (!axis || side === undefined) return () => false;
  const [low, high] = facts.machine.frame.travel_mm[axis];
  return side === 'min' ? () => frame.position(axis) <= low : () => frame.position(axis) >= high;
}
