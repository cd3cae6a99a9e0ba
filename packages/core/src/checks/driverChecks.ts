import { TOLERANCE } from '../calculation/calculation';
import type { Facts } from '../machine/facts';
import { MOTOR_AXES, type Kinematics, type MotorAxis } from '../machine/machine';
import { drivenBy, moduleLimit } from '../settings/driverRules';
import { numberOf, type Settings } from '../settings/setting';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';

const WHOSE: Record<MotorAxis, string> = { x: 'X', y: 'Y', z: 'Z', e: 'extruder' };
/** Shares of a motor's rating above which it overheats, and below which it loses steps. */
const MOST_SHARE = 0.9;
const LEAST_SHARE = 0.4;
/** Below this it hardly turns at all. */
const IDLE_SHARE = 0.2;

type Driven = NonNullable<ReturnType<typeof drivenBy>>;

/** Every axis whose current some check speaks about; what two motors share counts for both. */
function currents(
  facts: Facts,
  settings: Settings,
  judge: (
    amps: number,
    rated: number,
    driven: Driven,
  ) => Pick<Spoken, 'what' | 'why' | 'evidence' | 'severity'> | undefined,
): Spoken[] {
  return MOTOR_AXES.flatMap((axis) => {
    const driven = drivenBy(facts, axis);
    if (!driven || driven.motors.length === 0) return [];
    const key = `current.${axis}`;
    const rated = driven.motors.reduce((sum, { type }) => sum + type.rated_a, 0);
    const said = judge(numberOf(settings, key), rated, driven);
    if (!said) return [];
    return [
      {
        subject: aboutSetting(key),
        ...said,
        evidence: [asSet(settings, key, 'A'), ...said.evidence],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

const share = (amps: number, rated: number) => Math.round((100 * amps) / rated);
const motorsOf = ({ motors }: Driven) => motors.map(({ id }) => id).join(' and ');

const overMotor = (facts: Facts, settings: Settings) =>
  currents(facts, settings, (amps, rated, driven) =>
    amps <= MOST_SHARE * rated + TOLERANCE
      ? undefined
      : {
          what: `${motorsOf(driven)} would get ${share(amps, rated)} % of the rated current.`,
          why: 'Above 90 % a motor gets too hot to touch and its mount softens.',
          evidence: [`rated: ${rated} A`],
        },
  );

const overModule = (facts: Facts, settings: Settings) =>
  currents(facts, settings, (amps, _rated, { driver }) => {
    const limit = moduleLimit(driver);
    if (amps <= limit.amps + TOLERANCE) return undefined;
    return {
      what: `${driver.id} would give ${amps} A; ${limit.cooled} it stands ${limit.amps} A.`,
      why: 'It overheats and switches off in the middle of a move. Cool it better, or give less.',
      evidence: [`${driver.type.name} ${limit.cooled}: ${limit.amps} A`],
    };
  });

const low = (facts: Facts, settings: Settings) =>
  currents(facts, settings, (amps, rated, driven) =>
    amps >= LEAST_SHARE * rated - TOLERANCE
      ? undefined
      : {
          what: `${motorsOf(driven)} would get ${share(amps, rated)} % of the rated current.`,
          ...(amps < IDLE_SHARE * rated && { severity: 'mend' as const }),
          why:
            amps < IDLE_SHARE * rated
              ? 'With so little it hardly turns: homing does not meet its switch, and steps are lost at every move.'
              : 'Below 40 % a motor loses steps at the first resistance. Fine if you know why.',
          evidence: [`rated: ${rated} A`],
        },
  );

function hybrid(_facts: Facts, settings: Settings): Spoken[] {
  return MOTOR_AXES.filter((axis) => settings.get(`torque.${axis}`)?.value === 'by-speed').map((axis) => ({
    subject: aboutSetting(`torque.${axis}`),
    what: `The ${WHOSE[axis]} driver changes between quiet and torque at a speed.`,
    why: 'The change can cost a step or a shift in a print. If layers shift, choose one of the two.',
    evidence: [asSet(settings, `torque.${axis}`)],
  }));
}

type Range = [number, number];
/** Accelerations in mm/s² that frames of a kind usually hold, from common practice. */
const USUAL_ACCEL: Record<Kinematics, Record<MotorAxis, Range>> = {
  'moving-bed': { x: [200, 4000], y: [150, 2500], z: [20, 500], e: [300, 10_000] },
  'lifting-bed': { x: [200, 6000], y: [200, 6000], z: [20, 400], e: [300, 10_000] },
  'cross-belt': { x: [500, 15_000], y: [500, 15_000], z: [20, 400], e: [300, 10_000] },
};
/** Deviations in mm that leave corners sharp and do not shake the frame, from common practice. */
const USUAL_DEVIATION: Range = [0.002, 0.1];
const USUAL_JOLT: Record<MotorAxis, Range> = { x: [1, 20], y: [1, 20], z: [0.1, 2], e: [1, 20] };

/** Top speeds in mm/s that motors and screws of printers reach, from common practice. */
const USUAL_SPEED: Record<MotorAxis, Range> = { x: [20, 800], y: [20, 800], z: [1, 60], e: [5, 200] };

function range({ machine }: Facts, settings: Settings): Spoken[] {
  const { kinematics } = machine.frame;
  const outside = (key: string, [from, to]: Range, unit: string, what: string): Spoken[] => {
    const value = numberOf(settings, key);
    if (value >= from - TOLERANCE && value <= to + TOLERANCE) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `${what} of ${value} ${unit} is unusual for a ${kinematics.replace('-', ' ')} frame.`,
        why:
          value > to ? 'Expect ringing and lost steps; go up in stages.' : 'It works, and prints take long.',
        evidence: [asSet(settings, key, unit), `usual: ${from} to ${to} ${unit}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  };
  const byJolt = settings.get('corner.by')?.value === 'jolt';
  const deviation = settings.get('corner.by')?.value === 'deviation' ? outside('corner.deviation', USUAL_DEVIATION, 'mm', 'Corner deviation') : []; // prettier-ignore
  const ofAxes = MOTOR_AXES.flatMap((axis) => [
    ...outside(`accel.${axis}`, USUAL_ACCEL[kinematics][axis], 'mm/s²', `${WHOSE[axis]} acceleration`),
    ...outside(`speed.${axis}`, USUAL_SPEED[axis], 'mm/s', `${WHOSE[axis]} top speed`),
    ...(byJolt ? outside(`corner.jolt.${axis}`, USUAL_JOLT[axis], 'mm/s', `${WHOSE[axis]} jolt`) : []),
  ]);
  return [...ofAxes, ...deviation];
}

function directionParity(_facts: Facts, settings: Settings): Spoken[] {
  return MOTOR_AXES.flatMap((axis) => {
    const key = `direction.${axis}`;
    const setting = settings.get(key);
    if (setting?.hidden?.source !== 'derived' || setting.hidden.value === setting.value) return [];
    return [
      {
        subject: aboutSetting(key),
        what: `The ${WHOSE[axis]} motor is ${setting.value ? '' : 'not '}reversed by your own value; driver and plug ask for the other way.`,
        why: 'A driver or plug that turns a motor round wants the setting turned too. If it runs the right way, the fact “shaft turns” is wrong.',
        evidence: [asSet(settings, key), `by the facts: ${setting.hidden.because}`],
        remedies: resetRemedy(settings, key),
      },
    ];
  });
}

export const driverChecks: Check[] = [
  { id: 'driver.over-motor', severity: 'mend', run: overMotor },
  { id: 'driver.over-module', severity: 'mend', run: overModule },
  { id: 'motion.direction-parity', severity: 'mend', run: directionParity },
  { id: 'driver.low', severity: 'note', run: low },
  { id: 'driver.changes-over', severity: 'note', run: hybrid },
  { id: 'motion.range', severity: 'note', run: range },
];
