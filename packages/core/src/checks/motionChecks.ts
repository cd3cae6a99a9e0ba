import { resetEdit } from '../machine/edit';
import { driverOf, type Facts, partFor } from '../machine/facts';
import { MOTOR_AXES } from '../machine/machine';
import { driveTrain } from '../settings/driveRules';
import { numberOf, type Settings } from '../settings/setting';
import { stepsPerMm } from '../motion/stepsPerMm';
import { topSpeed } from '../motion/topSpeed';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

/** A roller's grip depth changes its effective diameter, so a measured value may differ this much. */
const ROLLER_SLACK = 0.25;
const GEOMETRIC_SLACK = 0.05;

function stepsDisagree(facts: Facts, settings: Settings): Spoken[] {
  return MOTOR_AXES.flatMap((axis) => {
    const train = driveTrain(facts, axis);
    const key = `steps.${axis}`;
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
        what: `${axis.toUpperCase()} steps differ ${(off * 100).toFixed(1)} % from what the drive gives.`,
        why: `A ${train.kind} allows ${slack * 100} %. Usually a microstep or gear fact is wrong, not the arithmetic.`,
        evidence: [`set: ${set} steps/mm`, `drive: ${gives}`],
        remedies: [{ label: `Use ${gives} from the drive`, edits: [resetEdit(key)] }],
      },
    ];
  });
}

function pulseRate(facts: Facts, settings: Settings): Spoken[] {
  const crossBelt = settings.get('frame.kinematics')?.value === 'cross-belt';
  return MOTOR_AXES.flatMap((axis) => {
    const steps = numberOf(settings, `steps.${axis}`);
    const speed = numberOf(settings, `speed.${axis}`);
    const pulse = driverOf(facts, partFor(facts, 'motor', axis))?.type.min_pulse_us;
    const rate = Math.min(facts.chip.step_rate_hz, pulse === undefined ? Infinity : 1e6 / (2 * pulse));
    const top = topSpeed.ofChecked({
      stepsPerMm: steps,
      stepRateHz: rate,
      kinematics: crossBelt && (axis === 'x' || axis === 'y') ? 'cross-belt' : 'plain',
    });
    if (speed <= top + 1e-9) return [];
    return [
      {
        subject: { kind: 'setting', id: `speed.${axis}` } as const,
        what: `${axis.toUpperCase()} at ${speed} mm/s needs more step pulses than the board can give.`,
        why: `Above ${Math.floor(top)} mm/s moves stutter or lose steps.`,
        evidence: [
          `${steps} steps/mm × ${speed} mm/s = ${Math.round(steps * speed)} pulses/s`,
          `${facts.chip.name} and driver: ${Math.round(rate)} pulses/s`,
        ],
        remedies: settings.get(`speed.${axis}`)?.hidden
          ? [{ label: 'Let the facts decide the speed', edits: [resetEdit(`speed.${axis}`)] }]
          : [
              {
                label: `Limit ${axis.toUpperCase()} to ${Math.floor(top)} mm/s`,
                edits: [{ path: ['axes', axis, 'max_speed_mm_s'], value: Math.floor(top) }],
              },
            ],
      },
    ];
  });
}

export const motionChecks: Check[] = [
  { id: 'motion.steps-disagree', severity: 'mend', run: stepsDisagree },
  { id: 'motion.pulse-rate', severity: 'mend', run: pulseRate },
];
