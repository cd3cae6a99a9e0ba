import { AXES, type Axis } from '@jolly/core/machine/machine';
import { numberOf, type Settings, spanOf } from '@jolly/core/settings/setting';
import { pinOf } from '@jolly/core/circuit/pinTable';
import { type Facts, partFor, partsOf, socketOf } from '@jolly/core/machine/facts';
import { type Plant, plantOf, type PlantView } from './plant';

/** Where the machine stood at a moment of the run. */
export type Place = Pick<PlantView, 'position'>['position'];

/** How one axis fared. */
export interface HomingLeg {
  axis: Axis;
  with: 'switch' | 'probe' | 'nothing';
  outcome: 'met' | 'met at once' | 'ran into the frame' | 'ran out' | 'not begun';
  /** One sentence: what happened, and where it ended. */
  what: string;
  /** True place at the start, at the end, and on the way. */
  path: Place[];
  /** Depth in mm the nozzle was pushed into the plate. */
  nozzleInPlateMm: number;
}

/** Distance between two looks at the sensor, in mm. */
const LOOK_MM = 0.25;
/** How often a place is noted down, in looks. */
const NOTED = 12;
/** Looks for which an axis may stand against the frame before the run is given up. */
const GIVEN_UP = 16;
const LIFT_MM = 4;
const INPUT = 0;
const INPUT_PULL_UP = 1;
const OUTPUT = 2;

/**
 * Homes the machine on the bench's plant, for the settings as they are: the same moves in the same order as the
 * firmware makes, without an image. The plant follows the facts, so that a setting against them behaves wrong.
 */
export function dryHoming(facts: Facts, settings: Settings, seed = 1): HomingLeg[] {
  const plant = plantOf(facts, seed);
  const drive = driveOf(facts, settings, plant);
  const legs: HomingLeg[] = [];
  for (const axis of AXES) {
    const blocked = legs.some(({ axis: done, outcome }) => done !== 'z' && !outcome.startsWith('met'));
    const byProbe = axis === 'z' && settings.get('home.z.with')?.value === 'probe';
    legs.push(
      byProbe && blocked
        ? notBegun(plant, 'The probe must be over its spot first, and X and Y are not homed.')
        : homeAxis(facts, settings, plant, drive, axis, byProbe),
    );
  }
  return legs;
}

const at = (plant: Plant): Place => plant.view(0).position;

function notBegun(plant: Plant, what: string): HomingLeg {
  return {
    axis: 'z',
    with: 'probe',
    outcome: 'not begun',
    what: `Z is not homed. ${what}`,
    path: [at(plant)],
    nozzleInPlateMm: 0,
  };
}

interface Drive {
  /** Moves the motors as the firmware would for so many mm along an axis. */
  go(axis: Axis, mm: number): void;
}

/** Motors as the settings steer them: steps, reversals and kinematics. */
function driveOf(facts: Facts, settings: Settings, plant: Plant): Drive {
  const motors = new Map(
    AXES.flatMap((axis) => {
      const socket = facts.board.sockets.find(({ id }) => id === socketOf(partFor(facts, 'motor', axis)));
      if (!socket) return [];
      for (const pin of [socket.step, socket.dir, socket.enable]) plant.pins.setMode(pin, OUTPUT);
      plant.pins.write(socket.enable, false);
      return [[axis, socket] as const];
    }),
  );
  const reversed = (axis: Axis) => settings.get(`direction.${axis}`)?.value === true;
  const turn = (axis: Axis, mm: number) => {
    const socket = motors.get(axis);
    if (!socket || mm === 0) return;
    plant.pins.write(socket.dir, mm > 0 !== reversed(axis));
    for (let left = Math.round(Math.abs(mm) * numberOf(settings, `steps.${axis}`)); left > 0; left -= 1)
      plant.step(socket.step);
  };
  const crossBelt = settings.get('frame.kinematics')?.value === 'cross-belt';
  return {
    go(axis, mm) {
      if (!crossBelt || axis === 'z') return turn(axis, mm);
      // a = x + y, b = x − y; both turn together, in small pieces.
      turn('x', mm);
      turn('y', axis === 'x' ? mm : -mm);
    },
  };
}

function homeAxis(
  facts: Facts,
  settings: Settings,
  plant: Plant,
  drive: Drive,
  axis: Axis,
  byProbe: boolean,
): HomingLeg {
  const path = [at(plant)];
  const sensor = byProbe ? probeSensor(facts, settings, plant) : switchSensor(facts, settings, plant, axis);
  const upper = axis.toUpperCase();
  const leg = (outcome: HomingLeg['outcome'], what: string): HomingLeg => ({
    axis,
    with: !sensor ? 'nothing' : byProbe ? 'probe' : 'switch',
    outcome,
    what,
    path: [...path, at(plant)],
    nozzleInPlateMm: plant.view(0).nozzleInPlateMm,
  });
  if (byProbe && sensor) overSpot(settings, drive, path, plant);
  const towards = settings.get(`home.${axis}.side`)?.value === 'max' ? 1 : -1;
  const [low, high] = spanOf(settings, `travel.${axis}`);
  const longest = (high - low) * 1.1 + 10;
  const [blockedBefore, nozzleBefore] = [plant.view(0).blocked[axis], plant.view(0).nozzleInPlateMm];
  let gone = 0;
  let stood = 0;
  for (let look = 0; gone < longest; look += 1) {
    if (sensor?.()) {
      const where = at(plant)[axis].toFixed(1);
      if (gone === 0)
        return leg(
          'met at once',
          `${upper} reads its ${byProbe ? 'probe' : 'switch'} as met before it moves, at ${where} mm: inversion, pull-up or wiring is wrong.`,
        );
      drive.go(axis, -towards * LIFT_MM);
      return leg(
        'met',
        `${upper} met its ${byProbe ? 'probe at the plate' : 'switch'} after ${gone.toFixed(0)} mm, at ${where} mm.`,
      );
    }
    const blocked = plant.view(0).blocked[axis];
    drive.go(axis, towards * LOOK_MM);
    gone += LOOK_MM;
    stood = plant.view(0).blocked[axis] > blocked ? stood + 1 : 0;
    if (look % NOTED === 0) path.push(at(plant));
    if (stood >= GIVEN_UP) break;
  }
  const where = at(plant)[axis].toFixed(1);
  const rammed = plant.view(0).nozzleInPlateMm - nozzleBefore;
  if (rammed > 0.05)
    return leg(
      'ran into the frame',
      `${upper} never met its ${byProbe ? 'probe' : 'switch'}: the nozzle went ${rammed.toFixed(1)} mm into the plate.`,
    );
  return plant.view(0).blocked[axis] > blockedBefore
    ? leg(
        'ran into the frame',
        `${upper} ran into the ${where.startsWith('-') || Number(where) <= low ? 'low' : 'high'} end of the frame at ${where} mm${sensor ? '' : '; nothing tells it where it is'}.`,
      )
    : leg('ran out', `${upper} went ${gone.toFixed(0)} mm, to ${where} mm, and met nothing.`);
}

/** Lifts, and moves the nozzle so that the probe stands over the Z home spot. */
function overSpot(settings: Settings, drive: Drive, path: Place[], plant: Plant): void {
  const clear = numberOf(settings, 'probe.clear');
  drive.go('z', clear);
  // X and Y have just backed off their ends.
  for (const axis of ['x', 'y'] as const) {
    const end = spanOf(settings, `travel.${axis}`)[
      settings.get(`home.${axis}.side`)?.value === 'max' ? 1 : 0
    ];
    const away = settings.get(`home.${axis}.side`)?.value === 'max' ? -LIFT_MM : LIFT_MM;
    const wanted = numberOf(settings, `home.spot.${axis}`) - numberOf(settings, `probe.offset.${axis}`);
    for (let left = wanted - (end + away); Math.abs(left) > 1e-9;) {
      const piece = Math.sign(left) * Math.min(Math.abs(left), LOOK_MM * NOTED);
      drive.go(axis, piece);
      left -= piece;
      path.push(at(plant));
    }
  }
}

function switchSensor(
  facts: Facts,
  settings: Settings,
  plant: Plant,
  axis: Axis,
): (() => boolean) | undefined {
  const pin = pinOf(facts, partFor(facts, 'switch', axis), 'signal');
  if (pin === undefined) return undefined;
  plant.pins.setMode(pin, settings.get(`switch.${axis}.pull-up`)?.value === true ? INPUT_PULL_UP : INPUT);
  const high = settings.get(`switch.${axis}.pressed`)?.value === 'high';
  return () => plant.readPin(pin) === high;
}

function probeSensor(facts: Facts, settings: Settings, plant: Plant): (() => boolean) | undefined {
  const part = partsOf(facts, 'probe')[0];
  const pin = pinOf(facts, part, 'signal');
  if (pin === undefined || settings.get('probe.kind')?.value === 'none') return undefined;
  plant.pins.setMode(pin, settings.get('probe.pull-up')?.value === true ? INPUT_PULL_UP : INPUT);
  const servo = pinOf(facts, part, 'control');
  if (servo !== undefined) plant.pwm(0, servo, 0, numberOf(settings, 'probe.deploy'));
  const high = settings.get('probe.triggered')?.value === 'high';
  return () => plant.readPin(pin) === high;
}
