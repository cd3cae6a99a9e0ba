import type { Heated } from '@jolly/core/machine/machine';
import { adcToC, thermistorC } from '@jolly/core/heat/thermistor';
import { fitHeater } from '@jolly/core/heat/fitHeater';
import { guardCheck } from '@jolly/core/heat/guardCheck';
import { heaterCurve } from '@jolly/core/settings/heaterCurve';
import { heaterLoad } from '@jolly/core/electricity/heaterLoad';
import { EXPLAINS_C, likelySensors } from '@jolly/core/heat/likelySensors';
import { measuredEdit } from '@jolly/core/settings/measuredEdit';
import { numberOf } from '@jolly/core/settings/setting';
import { overrideEdit } from '@jolly/core/machine/edit';
import { partFor } from '@jolly/core/machine/facts';
import { relayPid } from '@jolly/core/heat/relayPid';
import { sensorInput, thermistorsOf } from '@jolly/core/settings/sensorInput';
import type { PartId } from '@jolly/session/machineParts';
import type { Workbench } from '../workbench/Workbench';
import { type Tool, type Typed, TypedError } from './tool';
import { choice, field, measured, numberIn, short } from './typed';

const BODIES: readonly PartId[] = ['hotend', 'bed'];
// Offered on heated parts only.
const bodyOf = (part: PartId) => part as Heated;

/** Pairs of numbers, one to a line. @throws {TypedError} naming the line */
function pairs(text: string | undefined, first: string, second: string): [number, number][] {
  const lines = (text ?? '')
    .trim()
    .split('\n')
    .filter((line) => line.trim() !== '');
  if (lines.length === 0) throw new TypedError(`Type ${first} and ${second}, a line each`);
  return lines.map((line, index) => {
    const [a = '', b = ''] = line.trim().split(/[\s;]+/);
    return [
      numberIn({ a }, 'a', `Line ${index + 1}, ${first}`),
      numberIn({ b }, 'b', `Line ${index + 1}, ${second}`),
    ];
  });
}

const sensorSetup = ({ facts }: Workbench, part: PartId) => ({
  ...sensorInput(facts, part),
  candidates: thermistorsOf(facts.catalogue),
});

const sensor: Tool = {
  id: 'sensor',
  title: 'Which sensor is it?',
  parts: BODIES,
  doing:
    'Note the count the board reads at room temperature, and once more when a thermometer shows something well above. A second, warm reading tells sensors apart that are alike cold.',
  fields: ({ machine }, part) => [
    {
      key: 'readings',
      label: 'Count and true °C, a line each',
      lines: true,
      example: 'for example 3912 25',
      start: (machine.readings?.[bodyOf(part)] ?? []).map(({ raw, known_c: c }) => `${raw} ${c}`).join('\n'),
    },
  ],
  work: (typed, workbench, part) => {
    const readings = pairs(typed['readings'], 'the count', '°C').map(([raw, knownC]) => ({ raw, knownC }));
    const setup = sensorSetup(workbench, part);
    const { ranked, tied } = likelySensors({ ...setup, readings });
    const [likeliest] = ranked;
    const best = setup.candidates.find(({ id }) => id === likeliest?.id);
    if (!best) throw new TypedError('no sensor of this kind is known');
    const counts = readings.map(({ raw }) =>
      adcToC({ raw, bits: setup.bits, pullupOhms: setup.pullupOhms, r25: best.r25, beta: best.beta }),
    );
    const ohms = counts[0]?.ohms;
    const odd = counts.find(({ verdict }) => verdict !== 'fine');
    return {
      lines: [
        ...ranked
          .slice(0, 3)
          .map(
            ({ id, readsC, errorC }) =>
              `${id}: would read ${readsC.map((c) => (c === null ? 'nothing' : `${c.toFixed(1)}`)).join(', ')} °C${errorC === null ? '' : `, off by ${errorC.toFixed(1)} °C`}`,
          ),
        ...(ohms == null
          ? []
          : [
              `The first count means ${short(ohms)} Ω, ${thermistorC({ ohms, r25: best.r25, beta: best.beta }).toFixed(1)} °C; one count is ${short(counts[0]?.degreesPerCount ?? 0, 2)} °C.`,
            ]),
      ],
      verdict: odd
        ? { tone: 'bad', words: `${odd.verdict} circuit` }
        : (likeliest?.errorC ?? Infinity) > EXPLAINS_C
          ? {
              tone: 'bad',
              words: 'none that is known here; look at port and pull-up, or describe it as a part',
            }
          : tied.length > 0
            ? { tone: 'plain', words: `${tied.join(' and ')} cannot be told apart yet: read it warm` }
            : { tone: 'good', words: best.id },
      apply: {
        label: 'Keep these readings with the machine',
        edits: [
          {
            path: ['readings', part],
            value: readings.map(({ raw, knownC }) => ({ raw: Math.round(raw), known_c: knownC })),
          },
        ],
      },
    };
  },
};

const resistance: Tool = {
  id: 'heater-ohms',
  title: 'What does the meter say of the heater?',
  parts: BODIES,
  doing:
    'Unplug the machine and the heater. Measure across its two wires, and from each wire to the metal: that must read open.',
  fields: ({ machine, facts }, part) => {
    const type = partFor(facts, 'heater', part)?.type;
    return [
      measured('ohms', 'Measured', 'Ω', type ? short(type.volts ** 2 / type.watts, 3) : '14.4'),
      field('volts', 'Supply', 'V', machine.supply.volts_v),
    ];
  },
  work: (typed, { facts }, part) => {
    const found = heaterLoad({
      ohms: numberIn(typed, 'ohms', 'Measured', 'Ω'),
      volts: numberIn(typed, 'volts', 'Supply', 'V'),
    });
    const type = partFor(facts, 'heater', part)?.type;
    const watts = 'watts' in found ? found.watts : 0;
    const expected = type
      ? (type.watts * numberIn(typed, 'volts', 'Supply', 'V') ** 2) / type.volts ** 2
      : undefined;
    return {
      lines: [
        `${short(found.amps, 3)} A and ${short(watts, 3)} W at this supply.`,
        ...(!type || expected === undefined ? [] : [`${type.name} would draw ${short(expected, 3)} W.`]),
      ],
      verdict:
        expected === undefined
          ? { tone: 'plain', words: 'no heater is described here: nothing to hold it against' }
          : Math.abs(watts / expected - 1) <= 0.15
            ? { tone: 'good', words: 'plausible' }
            : { tone: 'bad', words: 'another heater, or a bad contact' },
    };
  },
};

const pid: Tool = {
  id: 'relay-pid',
  title: 'PID from a swing',
  parts: BODIES,
  doing:
    'With on-off control, let it swing around the temperature you print at, fan as in a print. Read the highest, the lowest and the time of one swing.',
  fields: (_workbench, part) => [
    measured('high', 'Highest', '°C', part === 'bed' ? 61.75 : 201.75),
    measured('low', 'Lowest', '°C', part === 'bed' ? 58.25 : 198.25),
    measured('period', 'One swing', 's', 22),
    choice(
      'rule',
      'Rule',
      { classic: 'classic', 'some overshoot': 'some overshoot', 'no overshoot': 'no overshoot' },
      'classic',
    ),
  ],
  work: (typed, { facts, settings }, part) => {
    const [high, low] = [numberIn(typed, 'high', 'Highest', '°C'), numberIn(typed, 'low', 'Lowest', '°C')];
    const [around, max] = [(high + low) / 2, numberOf(settings, `heat.${part}.max`)];
    if (around > max)
      return {
        lines: [
          `It swung around ${short(around)} °C; the ${part === 'bed' ? 'bed' : 'hot end'} may reach ${short(max)} °C. Let it swing where it may stay.`,
        ],
        verdict: { tone: 'bad', words: 'hotter than it may be' },
      };
    const { ku, kp, ki, kd } = relayPid({
      highC: high,
      lowC: low,
      periodS: numberIn(typed, 'period', 'One swing', 's'),
      // Full on and full off, in counts of 255.
      swing: 127.5,
      // One of the choices that the tool offers; the calculation refuses others.
      rule: typed['rule'] as 'classic',
    });
    const because = `from a swing of ${typed['low']} to ${typed['high']} °C in ${typed['period']} s, ${typed['rule']}`;
    const values = { p: kp, i: ki, d: kd };
    return {
      lines: [`Ultimate gain ${short(ku)}. P ${short(kp)}, I ${short(ki)}, D ${short(kd)}.`],
      apply: {
        label: `PID of the ${part === 'bed' ? 'bed' : 'hot end'}: ${short(kp)}, ${short(ki)}, ${short(kd)}`,
        edits: (['p', 'i', 'd'] as const).map((letter) =>
          measuredEdit(facts, `pid.${part}.${letter}`, Number(short(values[letter])), because),
        ),
      },
    };
  },
};

const WINDOWS = [
  { key: 'rise', label: 'Rise awaited', unit: '°C' },
  { key: 'rise-time', label: 'Time to rise', unit: 's' },
  { key: 'drop', label: 'Drop allowed', unit: '°C' },
  { key: 'drop-time', label: 'Time to drop', unit: 's' },
] as const;

function judgeWindows(
  curve: { gainC: number; tauS: number; deadS: number; ambientC: number },
  targetC: number,
  typed: Typed,
) {
  const [rise, riseTime, drop, dropTime] = WINDOWS;
  const value = ({ key, label, unit }: (typeof WINDOWS)[number]) => numberIn(typed, key, label, unit);
  return guardCheck({
    ...curve,
    targetC,
    watchRiseC: value(rise),
    watchPeriodS: value(riseTime),
    holdDropC: value(drop),
    holdPeriodS: value(dropTime),
  });
}

const guard: Tool = {
  id: 'guard-windows',
  title: 'Does the guard suit the heater?',
  parts: BODIES,
  doing:
    'Too tight a window raises false alarms; too wide a one acts when it is too late. Change the numbers and see.',
  fields: ({ settings }, part) => [
    field('target', 'Hottest target', '°C', numberOf(settings, `heat.${part}.max`)),
    ...WINDOWS.map(({ key, label, unit }) =>
      field(key, label, unit, numberOf(settings, `guard.${part}.${key}`)),
    ),
  ],
  work: (typed, { facts, settings }, part) => {
    const curve = heaterCurve(facts, new Map(settings), bodyOf(part));
    if (!curve)
      throw new TypedError(
        partFor(facts, 'heater', bodyOf(part))
          ? 'Nobody has described how this heater warms. Tune its PID at Calibrate: it measures that, and holds the guard against it'
          : 'There is no such heater',
      );
    const found = judgeWindows(curve, numberIn(typed, 'target', 'Hottest target', '°C'), typed);
    return {
      lines: [
        `At worst it rises ${short(found.warmRiseC, 3)} °C in the time to rise.`,
        found.holdTripS === null
          ? 'The reading never falls so far: a lost sensor is not noticed.'
          : `A sensor that falls off is noticed after ${Math.round(found.holdTripS)} s.`,
      ],
      verdict: found.falseTripWarm
        ? { tone: 'bad', words: 'false alarms' }
        : found.holdTripS === null
          ? { tone: 'bad', words: 'never notices a lost sensor' }
          : found.holdVerdict === 'late'
            ? { tone: 'bad', words: 'too late' }
            : { tone: 'good', words: 'suits' },
      apply: {
        label: `Guard windows of the ${part === 'bed' ? 'bed' : 'hot end'}`,
        edits: WINDOWS.map(({ key, label, unit }) =>
          overrideEdit(`guard.${part}.${key}`, numberIn(typed, key, label, unit), 'chosen with the tool'),
        ),
      },
    };
  },
};

const curve: Tool = {
  id: 'heater-curve',
  title: 'How does the heater warm?',
  parts: BODIES,
  doing:
    'From cold, give the heater a steady output and note the temperature every few seconds. Paste seconds and °C, a line each.',
  fields: () => [
    {
      key: 'trace',
      label: 'Seconds and °C, a line each',
      lines: true,
      start: '',
      example: 'for example\n0 21\n10 32\n20 48\n40 76\n60 99\n90 126\n120 147\n180 175\n240 192',
    },
    field('duty', 'Output', '%', 100),
    measured('ambient', 'Room', '°C', 21),
  ],
  work: (typed, { facts, settings }, part) => {
    const found = fitHeater({
      trace: pairs(typed['trace'], 'seconds', '°C').map(([t, c]) => ({ t, c })),
      duty: numberIn(typed, 'duty', 'Output', '%') / 100,
      ambientC: numberIn(typed, 'ambient', 'Room', '°C'),
    });
    const known = heaterCurve(facts, new Map(settings), bodyOf(part));
    return {
      lines: [
        `Full on it would warm by ${Math.round(found.gainC)} °C, time constant ${Math.round(found.tauS)} s, ${short(found.deadS, 2)} s late.`,
        `The curve lies ${short(found.rmsC, 2)} °C off your figures.`,
        ...(known
          ? [
              `The part is described as ${Math.round(known.gainC)} °C, ${Math.round(known.tauS)} s, ${short(known.deadS, 2)} s.`,
            ]
          : []),
      ],
      verdict: !known
        ? { tone: 'plain', words: 'how the part warms is not described: nothing to hold it against' }
        : offBy(found.tauS, known.tauS) || offBy(found.gainC, known.gainC)
          ? { tone: 'bad', words: 'not as the part is described: its guard may not suit' }
          : { tone: 'good', words: 'as described' },
    };
  },
};

/** So far from what is described that a guard reckoned from it may be wrong. */
const FAR = 0.4;
function offBy(one: number, described: number): boolean {
  return Math.abs(one / described - 1) > FAR;
}

export const heatTools: Tool[] = [sensor, guard, pid, curve, resistance];
