import type { MotorAxis } from '@jolly/core/machine/machine';
import { baudError } from '@jolly/core/electricity/baudError';
import { cubeVerdict } from '@jolly/core/motion/cubeVerdict';
import { deviationFromJolt, joltFromDeviation } from '@jolly/core/motion/cornering';
import { directionAfterSwap } from '@jolly/core/motion/directionAfterSwap';
import { driveTrain } from '@jolly/core/settings/driveRules';
import { drivenBy } from '@jolly/core/settings/driverRules';
import { driverReference, motorCurrent } from '@jolly/core/electricity/driverReference';
import { extruderSteps } from '@jolly/core/motion/extruderSteps';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { numberOf } from '@jolly/core/settings/setting';
import { overrideEdit } from '@jolly/core/machine/edit';
import { stepsPerMm } from '@jolly/core/motion/stepsPerMm';
import { topSpeed } from '@jolly/core/motion/topSpeed';
import type { PartId } from '@jolly/session/machineParts';
import { GearDrawing } from './GearDrawing';
import type { Tool } from './tool';
import { choice, field, measured, numberIn, short } from './typed';

const AXES: readonly PartId[] = ['x', 'y', 'z', 'e'];
// Offered on axes only.
const axisOf = (part: PartId) => part as MotorAxis;
const YES_NO = { no: 'no', yes: 'yes' };

const gearRatio: Tool = {
  id: 'gear-ratio',
  title: 'Find the gear ratio',
  parts: AXES,
  doing:
    'Unplug the machine. Mark the motor shaft and the shaft it drives. Turn the motor by hand and count its turns until the driven shaft has made the turns below.',
  fields: ({ machine }, part) => [
    measured('motor', 'Turns of the motor', '', machine.axes[axisOf(part)].gear_ratio ?? 3.5),
    field('output', 'Turns of the driven shaft', '', 1),
  ],
  work: (typed, { facts }, part) => {
    const motor = numberIn(typed, 'motor', 'Turns of the motor');
    const output = numberIn(typed, 'output', 'Turns of the driven shaft');
    const gear = motor / output;
    const train = driveTrain(facts, axisOf(part));
    return {
      lines: [
        `The motor makes ${short(gear)} turns for one of the driven shaft.`,
        ...(train ? [`Steps become ${short(stepsPerMm({ ...train, gearRatio: gear }), 6)} steps/mm.`] : []),
      ],
      drawing: <GearDrawing ratio={gear} />,
      apply: {
        label: `Gear ratio ${short(gear)}`,
        edits: [{ path: ['axes', part, 'gear_ratio'], value: Number(short(gear, 6)) }],
      },
    };
  },
};

const speed: Tool = {
  id: 'top-speed',
  title: 'How fast can it go?',
  parts: AXES,
  doing: 'The chip and the driver module give only so many step pulses a second. More microsteps cost speed.',
  fields: ({ settings, chip }, part) => [
    field('steps', 'Steps', 'steps/mm', numberOf(settings, `steps.${part}`)),
    field('rate', 'Pulses of the chip', '', chip.step_rate_hz),
  ],
  work: (typed, { machine, settings }, part) => {
    const crossBelt = machine.frame.kinematics === 'cross-belt' && (part === 'x' || part === 'y');
    const top = topSpeed({
      stepsPerMm: numberIn(typed, 'steps', 'Steps', 'steps/mm'),
      stepRateHz: numberIn(typed, 'rate', 'Pulses of the chip'),
      kinematics: crossBelt ? 'cross-belt' : 'plain',
    });
    const set = numberOf(settings, `speed.${part}`);
    return {
      lines: [
        `At most ${short(top)} mm/s${crossBelt ? ', along a diagonal' : ''}; ${set} mm/s is set.`,
        'Motors usually lose their force well before that.',
      ],
      verdict: set <= top ? { tone: 'good', words: 'fits' } : { tone: 'bad', words: 'too fast' },
    };
  },
};

const current: Tool = {
  id: 'current',
  title: 'Choose the current',
  parts: AXES,
  doing: 'Begin at 70 % of what the motor is rated for. Hot motors: less. Skipped steps: more.',
  fields: ({ facts }, part) => [
    field('rated', 'Rated, each motor', 'A', drivenBy(facts, axisOf(part))?.motors[0]?.type.rated_a),
    field('share', 'Share of it', '%', 70),
  ],
  work: (typed, { facts, settings }, part) => {
    const driven = drivenBy(facts, axisOf(part));
    const count = driven?.motors.length ?? 1;
    const { amps } = motorCurrent({
      ratedRms: numberIn(typed, 'rated', 'Rated', 'A'),
      share: numberIn(typed, 'share', 'Share of it', '%') / 100,
    });
    const all = Number((amps * count).toFixed(2));
    const perAmp = driven?.driver.type.volts_per_amp;
    const byPot = driven?.driver.type.mode === 'stand-alone';
    return {
      lines: [
        `${short(amps)} A for a motor${count > 1 ? `, ${all} A for the ${count} that share the driver` : ''}.`,
        ...(byPot && perAmp !== undefined
          ? [
              `Set ${short(driverReference({ currentRms: all, voltsPerAmpRms: perAmp }).volts, 3)} V at the pot, motors idle.`,
            ]
          : []),
        ...(byPot && perAmp === undefined
          ? ['The sense resistor is unknown: read it off the module first.']
          : []),
      ],
      apply: {
        label: `${part === 'e' ? 'Extruder' : part.toUpperCase()} motor current ${all} A`,
        edits: [
          measuredEdit(
            facts,
            `current.${part}`,
            all,
            `${typed['share']} % of the rating, chosen with the tool; ${String(settings.get(`current.${part}`)?.value)} A before`,
          ),
        ],
      },
    };
  },
};

const swap: Tool = {
  id: 'after-swap',
  title: 'After another driver or plug',
  parts: AXES,
  doing: 'Each thing that turns the motor round wants the setting turned too; two of them cancel.',
  fields: ({ settings }, part) => [
    choice(
      'was',
      'Was it reversed before',
      YES_NO,
      settings.get(`direction.${part}`)?.value === true ? 'yes' : 'no',
    ),
    choice('old', 'Did the old driver turn motors round', YES_NO, 'no'),
    choice('now', 'Does the new one', YES_NO, 'yes'),
    choice('plug', 'Is the plug the other way round', YES_NO, 'no'),
  ],
  work: (typed, { settings }, part) => {
    const wanted = directionAfterSwap({
      wasInverted: typed['was'] === 'yes',
      oldDriverFlips: typed['old'] === 'yes',
      newDriverFlips: typed['now'] === 'yes',
      plugTurned: typed['plug'] === 'yes',
    });
    const is = settings.get(`direction.${part}`)?.value === true;
    return {
      lines: [
        `It must ${wanted ? '' : 'not '}be reversed. The facts of this machine say ${is ? 'reversed' : 'not reversed'}.`,
      ],
      verdict:
        wanted === is
          ? { tone: 'good', words: 'as set' }
          : { tone: 'bad', words: 'differs: check driver and plug' },
    };
  },
};

const feed: Tool = {
  id: 'extruder-steps',
  title: 'Measure extruder steps',
  parts: ['e'],
  doing:
    'Hot end at printing heat. Mark the filament 120 mm above the entry, feed 100 mm slowly, and measure what is left to the mark.',
  fields: () => [
    field('asked', 'Asked for', 'mm', 100),
    field('mark', 'Mark above the entry', 'mm', 120),
    measured('left', 'Left to the mark', 'mm', 23.6),
  ],
  work: (typed, { facts, settings }) => {
    const found = extruderSteps({
      currentStepsPerMm: numberOf(settings, 'steps.e'),
      askedMm: numberIn(typed, 'asked', 'Asked for', 'mm'),
      markMm: numberIn(typed, 'mark', 'Mark above the entry', 'mm'),
      leftMm: numberIn(typed, 'left', 'Left to the mark', 'mm'),
    });
    const value = Number(found.stepsPerMm.toFixed(2));
    return {
      lines: [
        `It moved ${short(found.movedMm)} mm; ${short(found.stepsPerMm, 5)} steps/mm would be right (${found.changePct >= 0 ? '+' : ''}${short(found.changePct, 3)} %).`,
      ],
      verdict: { tone: found.verdict === 'measure again' ? 'bad' : 'good', words: found.verdict },
      ...(found.verdict === 'apply' && {
        apply: {
          label: `Extruder steps ${value} steps/mm`,
          edits: [
            measuredEdit(
              facts,
              'steps.e',
              value,
              `measured: ${short(found.movedMm)} mm moved of ${typed['asked']} mm`,
            ),
          ],
        },
      }),
    };
  },
};

const cornering: Tool = {
  id: 'cornering',
  title: 'Jolt and deviation',
  parts: ['frame'],
  doing: 'Two ways to limit speed at corners. Type one; the other corners alike at this acceleration.',
  fields: ({ settings }) => [
    choice('from', 'You know the', { jolt: 'jolt, mm/s', deviation: 'deviation, mm' }, 'jolt'),
    measured('value', 'It is', '', 8),
    field('accel', 'Acceleration', 'mm/s²', numberOf(settings, 'accel.x')),
  ],
  work: (typed) => {
    const value = numberIn(typed, 'value', 'It is');
    const accelMmS2 = numberIn(typed, 'accel', 'Acceleration', 'mm/s²');
    if (typed['from'] === 'deviation')
      return {
        lines: [
          `A jolt of ${short(joltFromDeviation({ deviationMm: value, accelMmS2 }), 3)} mm/s corners alike.`,
        ],
      };
    const deviation = Number(deviationFromJolt({ joltMmS: value, accelMmS2 }).toFixed(4));
    return {
      lines: [`A deviation of ${deviation} mm corners alike.`],
      apply: {
        label: `Corner deviation ${deviation} mm`,
        edits: [
          overrideEdit('corner.deviation', deviation, `as a jolt of ${value} mm/s at ${accelMmS2} mm/s²`),
        ],
      },
    };
  },
};

const cube: Tool = {
  id: 'cube',
  title: 'What does the test cube say?',
  parts: ['frame'],
  doing:
    'Measure two or more lengths along one axis. A constant error is line width, a growing one shrinkage: neither is a reason to change steps.',
  fields: () => [
    choice('axis', 'Axis', { x: 'X', y: 'Y', z: 'Z' }, 'x'),
    {
      key: 'sizes',
      label: 'Nominal and measured, a line each, mm',
      lines: true,
      start: '',
      example: 'for example\n20 20.15\n40 40.15',
    },
  ],
  work: (typed, { machine }) => {
    // One of the choices that the tool offers.
    const axis = typed['axis'] as 'x' | 'y' | 'z';
    const sizes = (typed['sizes'] ?? '')
      .trim()
      .split('\n')
      .map((line, index) => {
        const [nominal = '', measured = ''] = line.trim().split(/[\s;]+/);
        return {
          nominalMm: numberIn({ nominal }, 'nominal', `Line ${index + 1}, nominal`, 'mm'),
          measuredMm: numberIn({ measured }, 'measured', `Line ${index + 1}, measured`, 'mm'),
        };
      });
    const found = cubeVerdict({ axis, drive: machine.axes[axis].kind, sizes });
    return {
      lines: [`Offset ${short(found.offsetMm, 3)} mm, growth ${short(found.scalePct, 3)} %.`, found.because],
      verdict: { tone: found.verdict === 'leave' ? 'good' : 'plain', words: found.verdict },
    };
  },
};

const baud: Tool = {
  id: 'baud',
  title: 'Which baud can the chip make?',
  parts: ['identity'],
  doing: 'A serial port divides the clock of the chip. More than 2.5 % off, characters are lost.',
  fields: ({ settings, chip }) => [
    field('baud', 'Baud', '', numberOf(settings, 'link.baud')),
    field('clock', 'Clock', '', chip.clock_hz),
  ],
  work: (typed) => {
    const wanted = { clockHz: numberIn(typed, 'clock', 'Clock'), baud: numberIn(typed, 'baud', 'Baud') };
    const tries = ([16, 8] as const).map((divider) => ({ divider, ...baudError({ ...wanted, divider }) }));
    const best = tries.some(({ verdict }) => verdict !== 'no');
    return {
      lines: tries.map(
        ({ divider, actual, errorPct, verdict }) =>
          `Divided by ${divider}: ${actual.toFixed(0)} baud, ${errorPct.toFixed(2)} %, ${verdict}.`,
      ),
      verdict: best ? { tone: 'good', words: 'it can' } : { tone: 'bad', words: 'choose another' },
    };
  },
};

const mark: Tool = {
  id: 'mark',
  title: 'Mark the name',
  parts: ['identity'],
  doing:
    'A date or a count after the name lets the display prove which image runs. Mark it anew before you build.',
  fields: () => [choice('with', 'Mark with', { date: "today's date", count: 'the next number' }, 'date')],
  work: (typed, { machine }) => {
    const last = Number(/^\d+$/.exec(machine.mark ?? '')?.[0] ?? 0);
    const text = typed['with'] === 'count' ? String(last + 1) : new Date().toISOString().slice(0, 10);
    return {
      lines: [`The board would call itself ${machine.name} ${text}.`],
      apply: { label: `mark ${text}`, edits: [{ path: ['mark'], value: text }] },
    };
  },
};

export const motionTools: Tool[] = [gearRatio, feed, current, speed, swap, cornering, cube, mark, baud];
