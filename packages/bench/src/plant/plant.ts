import { HEATED, type Heated, type MotorAxis } from '@jolly/core/machine/machine';
import { isMains, type PartOf } from '@jolly/core/parts/part';
import { mountOffset } from '@jolly/core/settings/mountOffset';
import { pinOf } from '@jolly/core/circuit/pinTable';
import { sensorInput } from '@jolly/core/settings/sensorInput';
import { thermistorOhms } from '@jolly/core/heat/thermistor';
import { type Facts, heatSwitch, partFor, partsOf, type PlacedPart } from '@jolly/core/machine/facts';
import { type Frame, frameOf } from './frame';
import { type HeatedBody, heatedBody } from './heatedBody';
import { type Drive, inputLevel } from './inputs';
import { chipPins, type Pins } from './pins';
import { seededRandom } from './random';
import { plateSurface } from './surface';

/** Z offset of a probe that nobody has measured yet, in mm. */
const UNMEASURED_PROBE_Z_MM = -1.6;

/** What a person at the bench can see. */
export interface PlantView {
  position: Record<MotorAxis, number>;
  temperatureC: Partial<Record<Heated, number>>;
  pressed: Record<string, boolean>;
  probe?: { deployed: boolean; triggered: boolean };
  /** Steps lost against the frame, by axis. */
  blocked: Record<'x' | 'y' | 'z', number>;
  /** Depth in mm the nozzle was pushed into the plate, at worst. */
  nozzleInPlateMm: number;
}

/** The machine around the board. Time is in seconds of the virtual clock. */
export interface Plant {
  pins: Pins;
  step(pin: number): void;
  pwm(now: number, pin: number, share: number, highUs: number): void;
  readPin(pin: number): boolean;
  adc(now: number, pin: number): number;
  /** A person presses a switch, or holds something under the probe, by part id. */
  hold(partId: string, held: boolean): void;
  /** Something cold is held against a heated body. */
  chill(now: number, body: Heated, share: number): void;
  view(now: number): PlantView;
}

/** The machine as its facts describe it; the seed decides what facts leave open (where it stands, the plate's shape). */
export function plantOf(facts: Facts, seed: number, ambientC = 21): Plant {
  const random = seededRandom(seed);
  const pins = chipPins();
  const { travel_mm: travel, bed_mm: bed } = facts.machine.frame;
  const start = Object.fromEntries(
    (['x', 'y', 'z'] as const).map((axis) => [
      axis,
      travel[axis][0] + (0.15 + 0.3 * random()) * (travel[axis][1] - travel[axis][0]),
    ]),
  );
  // Filled for each axis above.
  const frame = frameOf(facts, pins, start as Record<'x' | 'y' | 'z', number>);
  const surface = plateSurface(bed, random);
  const bodies = bodiesOf(facts, ambientC);
  const held = new Set<string>();
  const probe = probeOf(facts, frame, surface, held);
  const switches = new Map(partsOf(facts, 'switch').map((part) => [pinOf(facts, part, 'signal'), part]));
  let nozzleInPlateMm = 0;

  const pressed = (part: PlacedPart<PartOf<'switch'>>): boolean =>
    held.has(part.id) || atSwitch(facts, frame, part.role);

  function noteNozzle(): void {
    const x = frame.position('x');
    const y = frame.position('y');
    if (x < bed.x[0] || x > bed.x[1] || y < bed.y[0] || y > bed.y[1]) return;
    nozzleInPlateMm = Math.max(nozzleInPlateMm, surface(x, y) - frame.position('z'));
  }

  return {
    pins,
    step(pin) {
      frame.step(pin);
      if (probe || partFor(facts, 'switch', 'z')) noteNozzle();
    },
    pwm(now, pin, share, highUs) {
      for (const body of bodies) if (body.heaterPin === pin) body.heat.setDuty(now, share);
      if (probe && probe.servoPin === pin) probe.servo(highUs);
    },
    readPin(pin) {
      if (probe && probe.signalPin === pin) return inputLevel(facts, probe.part, probe.drive(), pins, random);
      const part = switches.get(pin);
      if (!part) return pins.level(pin);
      return inputLevel(facts, part, switchDrive(part.type, pressed(part)), pins, random);
    },
    adc(now, pin) {
      const full = 2 ** facts.chip.adc_bits - 1;
      const body = bodies.find((entry) => entry.sensorPin === pin);
      if (!body) return full;
      const ohms = thermistorOhms(body.sensor, body.heat.temperatureC(now));
      return Math.round((full * ohms) / (ohms + body.pullUpOhms));
    },
    hold: (partId, on) => void (on ? held.add(partId) : held.delete(partId)),
    chill: (now, name, share) => bodies.find((entry) => entry.name === name)?.heat.cool(now, share),
    view: (now) => ({
      position: {
        x: frame.position('x'),
        y: frame.position('y'),
        z: frame.position('z'),
        e: frame.position('e'),
      },
      temperatureC: Object.fromEntries(bodies.map((body) => [body.name, body.heat.temperatureC(now)])),
      pressed: Object.fromEntries(partsOf(facts, 'switch').map((part) => [part.id, pressed(part)])),
      ...(probe && { probe: { deployed: probe.deployed(), triggered: probe.triggered() } }),
      blocked: frame.blocked(),
      nozzleInPlateMm,
    }),
  };
}

/** What a switch does to its signal lead: a lever closes to ground, a sensor drives or pulls as it is made. */
function switchDrive(type: PartOf<'switch'>, met: boolean): Drive {
  if (type.output === undefined) return met === (type.contact === 'normally-open') ? 'pulls low' : 'open';
  const low = met === (type.pressed === 'low');
  if (type.output === 'driven') return low ? 'low' : 'high';
  return low ? 'pulls low' : 'open';
}

function atSwitch(facts: Facts, frame: Frame, role: string): boolean {
  // Switches and probes have an axis as their role.
  const axis = role as 'x' | 'y' | 'z';
  const side = facts.machine.frame.switch_at[axis];
  const travel = facts.machine.frame.travel_mm[axis];
  if (side === undefined || travel === undefined) return false;
  return side === 'min' ? frame.position(axis) <= travel[0] : frame.position(axis) >= travel[1];
}

interface Body {
  name: Heated;
  heat: HeatedBody;
  heaterPin: number | undefined;
  sensorPin: number | undefined;
  sensor: { r25: number; beta: number };
  pullUpOhms: number;
}

function bodiesOf(facts: Facts, ambientC: number): Body[] {
  return HEATED.flatMap((name) => {
    const heater = partFor(facts, 'heater', name);
    const thermistor = partFor(facts, 'thermistor', name);
    if (!heater || !thermistor) return [];
    const power = isMains(heater.type) ? 1 : (facts.machine.supply.volts_v / heater.type.volts) ** 2;
    const sensorPin = pinOf(facts, thermistor, 'signal');
    return [
      {
        name,
        heat: heatedBody(heater.type.body, power, ambientC),
        heaterPin: pinOf(facts, heatSwitch(facts, name), 'control'),
        sensorPin,
        sensor: thermistor.type,
        pullUpOhms: sensorInput(facts, name).pullupOhms,
      },
    ];
  });
}

function probeOf(
  facts: Facts,
  frame: Frame,
  surface: (x: number, y: number) => number,
  held: ReadonlySet<string>,
) {
  const part = partsOf(facts, 'probe')[0];
  if (!part) return undefined;
  const mount = facts.machine.probe_mount;
  const offset = mount ? mountOffset(mount) : { x: 0, y: 0 };
  const offsetZ = mount?.z_mm ?? UNMEASURED_PROBE_Z_MM;
  const times = part.type.servo_us;
  let out = times === undefined;
  const { x: bedX, y: bedY } = facts.machine.frame.bed_mm;
  /** Beside the plate there is nothing to feel. */
  const feelsPlate = () => {
    const [x, y] = [frame.position('x') + offset.x, frame.position('y') + offset.y];
    const over = x >= bedX[0] && x <= bedX[1] && y >= bedY[0] && y <= bedY[1];
    return over && frame.position('z') + offsetZ <= surface(x, y);
  };
  const triggered = () => out && (held.has(part.id) || feelsPlate());
  return {
    part,
    signalPin: pinOf(facts, part, 'signal'),
    servoPin: pinOf(facts, part, 'control'),
    servo(highUs: number) {
      if (!times || highUs === 0) return;
      out = Math.abs(highUs - times.deploy) < Math.abs(highUs - times.stow);
    },
    deployed: () => out,
    triggered,
    drive(): Drive {
      const low = triggered() === (part.type.triggered === 'low');
      if (part.type.output === 'driven') return low ? 'low' : 'high';
      return low ? 'pulls low' : 'open';
    },
  };
}
