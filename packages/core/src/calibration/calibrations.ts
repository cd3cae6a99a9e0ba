import { isRead } from '../kit/kit';
import { measuredBy } from '../settings/measured';
import { heatKey } from '../settings/heatKey';
import { driverOf, type Facts, partFor, partsOf } from '../machine/facts';
import { type Extruder, extrudersOf } from '../machine/extruders';
import { AXES } from '../machine/machine';
import type { FactKey } from '../machine/touched';
import { bodyCalled } from '../machine/bodyCalled';
import { oncePer } from '../tree/oncePer';
import { touchesWithNozzle } from '../settings/probeAt';
import { tunedOn } from './tuned';

/** A value that must be measured on the machine itself. */
export interface Calibration {
  id: string;
  title: string;
  /** How it is measured, in a sentence. */
  how: string;
  /** The settings it decides. */
  sets: string[];
  /** The facts it rests on (see machine/touched.ts); when one of them changes, it falls due. */
  restsOn: readonly FactKey[];
  /** It wanders with time as well: due again after so many days. */
  everyDays?: number;
  /** After what people think of it, and need not. */
  notAfter: string;
}

/** What wanders with wear and weather is looked at again about every three months, or twice a year. */
const SEASON = 90;
const HALF_YEAR = 180;

/** The calibration of an extruder's steps. */
export const STEPS_OF: Readonly<Record<Extruder['key'], string>> = {
  e: 'extruder-steps',
  'second-e': 'second-extruder-steps',
};

/** How the height of the first layer is changed with this kit. */
function byStep(facts: Facts): string {
  if (isRead(facts.kit, 'nudge.on')) return 'Nudge in small steps, then store.';
  return partsOf(facts, 'probe')[0]
    ? 'Change the Z offset of the probe in small steps between prints, then store.'
    : 'Move the Z switch in small steps between prints.';
}

/** What is drawn or judged once, and has no time of its own, rests on what moves and feels. */
const MOVES_AND_FEELS: readonly FactKey[] = [
  'board',
  'frame.*',
  'axis.*',
  'motor.*',
  'driver.*',
  'probe',
  'probe-mount',
];

/** The facts that what a tool measures rests on. */
export const restsOnOf = (facts: Facts, id: string): readonly FactKey[] =>
  calibrationsOf(facts).find((one) => one.id === id)?.restsOn ?? MOVES_AND_FEELS;

/** A value falls due with the facts that it belongs to. */
const valueRestsOn = (key: string): readonly FactKey[] => measuredBy(key)?.restsOn ?? [];

/** Of a machine that finds Z with a switch. */
const Z_SWITCH: Calibration = {
  id: 'z-switch',
  title: 'Height of the Z switch by shim',
  how: 'Home Z, lower the nozzle onto a shim at the middle of the plate, and move the switch until it fits.',
  sets: [],
  restsOn: ['switch.z', 'frame.switches', 'hotend', 'nozzle', 'frame.bed'],
  everyDays: SEASON,
  notAfter: 'after new filament or belts',
};

/** Of a probe that hangs beside the nozzle. */
const PLACE: Calibration = {
  id: 'probe-place',
  title: 'Probe offset, X and Y',
  how: 'Mark where the nozzle and where the probe touch the plate, and measure between the marks.',
  sets: ['probe.offset.x', 'probe.offset.y'],
  restsOn: valueRestsOn('probe.offset.x'),
  notAfter: 'after another nozzle of the same kind, new filament or belts',
};

/** Every calibration this machine has, in the order they are done. */
export const calibrationsOf = oncePer((facts: Facts): readonly Calibration[] => {
  const { kit } = facts;
  const probe = partsOf(facts, 'probe')[0];
  const extruders = extrudersOf(facts);
  const motors = [
    ...AXES.map((axis) => ({ motor: partFor(facts, 'motor', axis), key: axis, called: axis.toUpperCase(), axis })),
    ...extruders.map(({ motor, key, axis, name }) => ({ motor, key, called: name, axis })),
  ]; // prettier-ignore
  return [
    ...motors
      .filter(({ motor }) => driverOf(facts, motor))
      .map(({ key, called }) => ({
        id: `current-${key}`,
        title: `${called} motor current`,
        how: 'After ten minutes of moves a motor may be warm, not hot, and must not skip. Start at 70 % of its rating.',
        sets: [`current.${key}`],
        restsOn: valueRestsOn(`current.${key}`),
        notAfter: 'after new belts, another nozzle or other filament',
      })),
    {
      id: 'tram',
      title: 'Tram the plate by its screws',
      how: 'Warm the plate to where you print, then level it at its screws, before anything else of Z is measured.',
      sets: [],
      restsOn: ['frame.bed', 'motor.z'],
      everyDays: HALF_YEAR,
      notAfter: 'after a nozzle job, new firmware, or another plate of the same kind',
    },
    ...(probe
      ? [
          {
            id: 'probe-repeat',
            title: 'Probe repeatability',
            how: isRead(kit, 'probe.repeat')
              ? 'Probe one spot ten times; the readings should lie within 0.05 mm of each other.'
              : `Home Z ten times and lower the nozzle onto a shim each time: it must drag alike. ${kit.name} ${kit.version} tells no spread.`,
            sets: [],
            restsOn: ['probe', 'probe-mount', 'board', 'supply'],
            everyDays: HALF_YEAR,
            notAfter: 'after new filament, belts, or another plate',
          },
          ...(touchesWithNozzle(facts) ? [] : [PLACE]),
          {
            id: 'z-offset',
            title: 'Z offset by shim',
            how: 'Lower the nozzle onto a shim in shrinking steps, at printing heat, until two runs agree.',
            sets: ['probe.offset.z'],
            restsOn: valueRestsOn('probe.offset.z'),
            everyDays: SEASON,
            notAfter: 'after new filament, belts, or another plate of the same kind',
          },
        ]
      : partFor(facts, 'switch', 'z')
        ? [Z_SWITCH]
        : []),
    ...tunedOn(facts).map((body) => ({
      id: `pid-${heatKey(body)}`,
      title: `PID of the ${bodyCalled(body)}`,
      how: 'Let the heater swing around the temperature you print at, and take P, I and D from the swing.',
      sets: ['p', 'i', 'd'].map((letter) => `pid.${heatKey(body)}.${letter}`),
      restsOn: valueRestsOn(`pid.${heatKey(body)}.p`),
      notAfter:
        body === 'bed'
          ? 'after a nozzle job or new firmware of the same kit'
          : 'after another nozzle of the same size, new filament, or new firmware of the same kit',
    })),
    ...extruders.map(({ key, axis, name }) => ({
      id: STEPS_OF[key],
      title: `${name} steps by measuring`,
      how: 'Mark 120 mm of filament, feed 100 mm, measure what is left.',
      sets: [`steps.${key}`],
      restsOn: [`axis.${axis}`, `motor.${axis}`],
      notAfter: 'after new filament, another nozzle, or because a print looks thin',
    })),
    {
      id: 'first-layer',
      title: 'First layer',
      how: `Print the test pattern; strands must merge without being squeezed thin. ${byStep(facts)}`,
      sets: [],
      restsOn: valueRestsOn('nudge.start'),
      everyDays: SEASON,
      notAfter: 'after new belts or another board',
    },
  ];
});
