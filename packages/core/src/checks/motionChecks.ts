import { TOLERANCE } from '../calculation/calculation';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import { resetEdit } from '../machine/edit';
import { extrudersOf } from '../machine/extruders';
import { driverOf, type Facts, partFor, type PlacedPart } from '../machine/facts';
import { type MotorAxis, MOTOR_AXES } from '../machine/machine';
import type { PartOf } from '../parts/part';
import { driveTrain } from '../settings/driveRules';
import { numberOf, type Settings } from '../settings/setting';
import { stepsPerMm } from '../motion/stepsPerMm';
import { topSpeed } from '../motion/topSpeed';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

/** A roller's grip depth changes its effective diameter, so a measured value may differ this much. */
const ROLLER_SLACK = 0.25;
const GEOMETRIC_SLACK = 0.05;

/** A motor with steps and a speed of its own. */
interface Driven {
  /** What the keys of its settings end with, and where its drive stands in the machine file. */
  key: MotorAxis | 'second-e';
  at: MotorAxis | 'e2';
  axis: MotorAxis;
  name: string;
  motor: PlacedPart<PartOf<'motor'>> | undefined;
}

/** The first motor of each axis, and a second extruder's. */
function drivenOf(facts: Facts): Driven[] {
  const second = extrudersOf(facts)[1];
  return [
    ...MOTOR_AXES.map((axis): Driven => {
      const name = axis === 'e' ? 'Extruder' : axis.toUpperCase();
      return { key: axis, at: axis, axis, name, motor: partFor(facts, 'motor', axis) };
    }),
    ...(second ? [{ key: second.key, at: facts.machine.axes.e2 ? 'e2' : 'e', axis: 'e', name: second.name, motor: second.motor } as const] : []),
  ]; // prettier-ignore
}

function stepsDisagree(facts: Facts, settings: Settings): Spoken[] {
  return drivenOf(facts).flatMap(({ key: of, axis, name, motor }) => {
    const train = driveTrain(facts, axis, motor);
    const key = `steps.${of}`;
    const set = numberOf(settings, key);
    if (!train) return [];
    const computed = stepsPerMm.ofChecked(train);
    const slack = train.kind === 'roller' ? ROLLER_SLACK : GEOMETRIC_SLACK;
    const off = set / computed - 1;
    const gives = `${Number(computed.toFixed(3))} steps/mm`;
    if (Math.abs(off) <= slack + 1e-9) return [];
    return [
      {
        subject: { kind: 'setting', id: key } as const,
        what: `${name} steps are ${Math.abs(off * 100).toFixed(1)} % ${off < 0 ? 'fewer' : 'more'} than the drive gives.`,
        why: `A ${train.kind} allows ${slack * 100} %. Usually a microstep or gear fact is wrong, not the arithmetic.`,
        evidence: [`set: ${set} steps/mm`, `drive: ${gives}`],
        remedies: [{ label: `Use ${gives} from the drive`, edits: [resetEdit(key)] }],
      },
    ];
  });
}

/** Every motor that is to step faster than its driver, the chip or the kit can; `beyondKit`: this kit builds no such image. */
function tooFast(facts: Facts, settings: Settings): (Spoken & { beyondKit: boolean })[] {
  const { kit, chip } = facts;
  const crossBelt = settings.get('frame.kinematics')?.value === 'cross-belt';
  return drivenOf(facts).flatMap(({ key, at, axis, name, motor }) => {
    const steps = numberOf(settings, `steps.${key}`);
    const speed = numberOf(settings, `speed.${key}`);
    const pulse = Math.max(numberOf(settings, 'pulse.width'), driverOf(facts, motor)?.type.min_pulse_us ?? 0);
    const rate = Math.min(chip.step_rate_hz, kit.step_rate_hz, 1e6 / (2 * pulse));
    const top = topSpeed.ofChecked({
      stepsPerMm: steps,
      stepRateHz: rate,
      kinematics: crossBelt && (axis === 'x' || axis === 'y') ? 'cross-belt' : 'plain',
    });
    if (speed <= top + TOLERANCE) return [];
    const beyondKit = steps * speed > kit.step_rate_hz;
    return [
      {
        beyondKit,
        subject: { kind: 'setting', id: `speed.${key}` } as const,
        what: `${name} at ${speed} mm/s needs more step pulses than ${beyondKit ? kit.name : 'the board'} can give.`,
        why: beyondKit
          ? `No image is built with it. Up to ${Math.floor(top)} mm/s the board keeps up.`
          : `Above ${Math.floor(top)} mm/s moves stutter or lose steps.`,
        evidence: [
          `${steps} steps/mm × ${speed} mm/s = ${Math.round(steps * speed)} pulses/s`,
          ...(beyondKit ? [`${kit.name}: ${kit.step_rate_hz} pulses/s`] : []),
          `${chip.name}, driver and a pulse of ${pulse} µs: ${Math.round(rate)} pulses/s`,
        ],
        remedies: settings.get(`speed.${key}`)?.hidden
          ? [{ label: 'Let the facts decide the speed', edits: [resetEdit(`speed.${key}`)] }]
          : [
              {
                label: `Limit ${at === 'e2' ? 'the second extruder' : axis === 'e' ? 'the extruder' : name} to ${Math.floor(top)} mm/s`,
                edits: [{ path: ['axes', at, 'max_speed_mm_s'], value: Math.floor(top) }],
              },
            ],
      },
    ];
  });
}
const faster =
  (wanted: boolean) =>
  (facts: Facts, settings: Settings): Spoken[] =>
    tooFast(facts, settings)
      .filter(({ beyondKit }) => beyondKit === wanted)
      .map(({ beyondKit: _, ...said }) => said);

function pulseShort(facts: Facts, settings: Settings): Spoken[] {
  const slowest = settings.get('pulse.width')?.hidden;
  const width = numberOf(settings, 'pulse.width');
  if (slowest?.source !== 'derived' || width >= Number(slowest.value) - TOLERANCE) return [];
  return [
    {
      subject: aboutSetting('pulse.width'),
      what: `Step pulses of ${width} µs are too short for a driver of ${facts.machine.name}.`,
      why: 'It misses steps, now and then or all of them, without a word.',
      evidence: [asSet(settings, 'pulse.width', 'µs'), `by the facts: ${slowest.because}, ${String(slowest.value)} µs`],
      remedies: resetRemedy(settings, 'pulse.width'),
    },
  ];
} // prettier-ignore

export const motionChecks: Check[] = [
  { id: 'motion.steps-disagree', severity: 'mend', run: stepsDisagree },
  { id: 'motion.pulse-limit', severity: 'stop', run: faster(true) },
  { id: 'motion.pulse-rate', severity: 'mend', run: faster(false) },
  { id: 'motion.pulse-short', severity: 'mend', run: pulseShort },
];
