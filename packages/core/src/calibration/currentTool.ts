import {
  type Answer,
  ask,
  askAll,
  type Choice,
  choose,
  type Procedure,
  replies,
  tell,
} from '../bringup/procedure';
import { heatKey } from '../settings/heatKey';
import { motorCurrent } from '../electricity/driverReference';
import type { Remedy } from '../finding/finding';
import { overrideEdit } from '../machine/edit';
import { type Extruder, extrudersOf } from '../machine/extruders';
import { driverOf, type Facts, partFor, type PlacedPart } from '../machine/facts';
import { AXES, type Axis } from '../machine/machine';
import type { PartOf } from '../parts/part';
import { bodyCalled } from '../machine/bodyCalled';
import { drivenWith, moduleLimit } from '../settings/driverRules';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import { onBoard, setsLine } from './boardSetting';
import {
  type CalibrationTool,
  endedBy,
  type Figure,
  type Found,
  found,
  missingOf,
  numberIn,
  round,
} from './calibrationTool';
import { homeAll, lift } from './warmUp';

/** Steps are lost when an axis is met so far from where it was believed, mm. */
const LOST_MM = 0.12;
/** Motors may be driven so far of their rating, and are asked for so much more or less at a time. */
const MOST_SHARE = 0.9;
const MORE = 1.15;
const LESS = 0.85;
/** A driver that says so warm may not be asked for more, °C. */
const DRIVER_HOT_C = 110;

const WARMTH: readonly Choice[] = [
  { id: 'cool', label: 'Cool or hand-warm', keys: ['-', ' '] },
  { id: 'warm', label: 'Warm: a hand stays on it', keys: ['Enter'] },
  { id: 'hot', label: 'Hot: a hand does not stay', keys: ['+'] },
];

/** The current of each motor: moved hard, then looked at for lost steps and for warmth. */
export const currentTools = (facts: Facts, settings: Settings): CalibrationTool[] => [
  ...AXES.flatMap((axis) => {
    const motor = partFor(facts, 'motor', axis);
    return driverOf(facts, motor) ? [currentTool(facts, settings, { axis, motor, key: axis, called: axis.toUpperCase(), of: axis })] : [];
  }),
  ...extrudersOf(facts)
    .filter(({ motor }) => driverOf(facts, motor))
    .map((extruder) => extruderCurrentTool(facts, settings, extruder)),
]; // prettier-ignore

/** A motor whose current is looked at: what its settings end with, and what it is called. */
interface Looked {
  motor: PlacedPart<PartOf<'motor'>> | undefined;
  /** What its current is called: `current.` and this. */
  key: string;
  called: string;
  /** The axis whose quiet or forceful driving it shares. */
  of: string;
}

/** What is heard of a drive that feeds: no switch tells of its steps. */
const HEARD: readonly Choice[] = [
  { id: 'even', label: 'It feeds evenly', keys: ['Enter', ' '] },
  { id: 'clicks', label: 'It clicks, knocks or jumps back', keys: ['+'] },
];
/** So much is fed at a time, mm. */
const FEED_MM = 10;

/** The same of the extruder: fed hard, then listened to, for nothing tells how far it went. */
function extruderCurrentTool(facts: Facts, settings: Settings, extruder: Extruder): CalibrationTool {
  const { key, name, axis, hotend, motor } = extruder;
  const called = bodyCalled(hotend);
  const most = numberOf(settings, `heat.${heatKey(hotend)}.max`);
  const fastest = numberOf(settings, `speed.${key}`);
  const tool: CalibrationTool = {
    id: `current-${key}`,
    title: `${name} motor current`,
    what: 'Enough that the drive never jumps back while it feeds, and no more: a motor may get warm, not hot, or it softens the filament. Measure it after another motor, driver or board.',
    toHand: ['A hand for the motor, after it has fed', `Filament in the ${called}, and something below it for what comes out`],
    caution: `The ${called} is hot and plastic comes out of it. Keep your fingers at the motor.`,
    choosing: [
      { key: 'hotendC', label: 'Hot end', unit: '°C', range: [numberOf(settings, 'extrude.from'), most], value: Math.min(numberOf(settings, 'preset.one.hotend'), most) },
      { key: 'rounds', label: `Feeds of ${FEED_MM} mm`, unit: '', range: [1, 60], value: 12, help: 'A motor is as warm as it gets after some ten minutes.' },
      { key: 'speed', label: 'At', unit: 'mm/s', range: [0.5, fastest], value: Math.min(fastest, 5), help: 'As fast as it is asked for when you print quickly.' },
    ],
    after: [`heat-${hotend}`, `motor-${axis}`],
    ...(extruder.tool && { tool: extruder.tool }),
    *run(chosen) {
      yield* tell(`The ${called} warms. Nothing is fed while it is cold.`);
      const warm = yield* askAll([`M109 S${numberIn(tool, chosen, 'hotendC')}`, 'M83']);
      if (warm) return endedBy(warm);
      const rounds = Math.round(numberIn(tool, chosen, 'rounds'));
      yield* tell(`It feeds ${rounds} times ${FEED_MM} mm. Listen to the drive.`);
      for (let nth = 0; nth < rounds; nth += 1) {
        const fed = yield* askAll([`G1 E${FEED_MM} F${Math.round(numberIn(tool, chosen, 'speed') * 60)}`, 'M400']);
        if (fed) return endedBy(fed);
      }
      const driver = yield* driverSays(axis);
      const heard = yield* choose({ text: 'How did it feed?', about: 'extruder feeds', choices: HEARD });
      if ('ended' in heard) return endedBy(heard.ended);
      const felt = yield* choose({ text: `Lay a hand on the motor of the ${name.toLowerCase()}. How warm is it?`, about: `motor warmth ${axis}`, choices: WARMTH });
      if ('ended' in felt) return endedBy(felt.ended);
      const lost = heard.chosen === 'clicks' ? { words: 'it jumped back', causes: FEEDS_BADLY } : undefined;
      return yield* judged(facts, settings, { motor, key, called: name, of: 'e' }, { lost, seen: lost ? 'it clicked, knocked or jumped back' : 'it fed evenly', figures: [], warmth: felt.chosen, ...(driver && { driver }) });
    },
  };
  return tool;
} // prettier-ignore

function currentTool(facts: Facts, settings: Settings, looked: Looked & { axis: Axis }): CalibrationTool {
  const { axis, called } = looked;
  const tool: CalibrationTool = {
    id: `current-${axis}`,
    title: `${called} motor current`,
    what: `Enough that ${called} never loses steps, and no more: a motor may get warm, not hot. Measure it after another motor, driver or board, and when layers are shifted.`,
    toHand: ['A hand for the motor, after the moves', `Free way for ${called} to both ends`],
    caution: 'The axis moves fast over its whole way, many times. Keep out of its way.',
    choosing: [
      { key: 'rounds', label: 'To and fro', unit: 'times', range: [2, 200], value: 20, help: 'A motor is as warm as it gets after some ten minutes.' },
      { key: 'speed', label: 'At', unit: 'mm/s', range: [1, numberOf(settings, `speed.${axis}`)], value: Math.round(numberOf(settings, `speed.${axis}`) * 0.8) },
    ],
    after: ['home', `motor-${axis}`],
    *run(chosen) {
      const homed = yield* homeAll();
      if (homed) return endedBy(homed);
      const moved = yield* toAndFro(settings, axis, numberIn(tool, chosen, 'rounds'), numberIn(tool, chosen, 'speed'));
      if ('ended' in moved) return endedBy(moved.ended);
      const felt = yield* choose({ text: `Lay a hand on the ${called} motor. How warm is it?`, about: `motor warmth ${axis}`, choices: WARMTH });
      yield* lift();
      if ('ended' in felt) return endedBy(felt.ended);
      const offMm = Math.abs(moved.offMm);
      return yield* judged(facts, settings, looked, {
        lost: offMm > LOST_MM ? { words: `it lost ${offMm.toFixed(2)} mm of steps`, causes: BINDS } : undefined,
        seen: `met ${moved.offMm.toFixed(3)} mm from where it was believed`,
        figures: [{ id: `lost-${axis}`, label: `${called}: off after fast moves`, value: round(offMm, 3), unit: 'mm' }],
        warmth: felt.chosen,
        ...(moved.driver && { driver: moved.driver }),
      });
    },
  };
  return tool;
} // prettier-ignore

/** What a driver says of itself, where it says something. */
interface DriverSays {
  state: string;
  degrees: number;
}
interface Moved {
  /** Where it was met against where it was believed, mm. */
  offMm: number;
  driver?: DriverSays;
}

function* driverSays(axis: string): Procedure<DriverSays | undefined> {
  const told = replies(yield* ask('state'), 'driver').find(({ values }) => values['axis'] === axis)?.values;
  return told && { state: told['state'] ?? '?', degrees: Number(told['degrees'] ?? NaN) };
}

/** Fast over most of its way and homed anew: what it is off by is what it lost. */
function* toAndFro(
  settings: Settings,
  axis: Axis,
  rounds: number,
  speed: number,
): Procedure<Moved | { ended: Answer }> {
  const called = axis.toUpperCase();
  const [low, high] = spanOf(settings, `travel.${axis}`);
  const way = (high - low) * 0.8;
  const [from, to] = [round(low + (high - low) * 0.1, 1), round(low + (high - low) * 0.1 + way, 1)];
  const feed = Math.round(speed * 60);
  yield* tell(`${called} moves to and fro ${rounds} times. Listen for a knock or a growl.`);
  const free = axis === 'z' ? undefined : yield* askAll(['G1 Z10 F600']);
  if (free) return { ended: free };
  for (let nth = 0; nth < rounds; nth += 1) {
    const moved = yield* askAll([`G1 ${called}${to} F${feed}`, `G1 ${called}${from} F${feed}`]);
    if (moved) return { ended: moved };
  }
  const driver = yield* driverSays(axis);
  const again = yield* ask(`G28 ${called}`);
  if (again.problem !== undefined) return { ended: again };
  const offMm = Number(replies(again, 'home').find(({ values }) => values['axis'] === axis)?.values['off'] ?? NaN);
  if (!Number.isFinite(offMm))
    return { ended: { ...again, problem: 'error: this image does not tell how far off an axis was met' } };
  return { offMm, ...(driver && { driver }) };
} // prettier-ignore

/** What was seen of a motor that was moved hard. */
interface Watched {
  /** It did not go as far as it was told: how that was seen, and what may be behind it. */
  lost: { words: string; causes: NonNullable<Found['causes']> } | undefined;
  seen: string;
  figures: Figure[];
  warmth: string;
  driver?: DriverSays;
}

/** What a driver may give at most, A: 90 % of what all its motors are rated for, and no more than its module stands as it is cooled. */
function mostFor(facts: Facts, motor: Looked['motor']): { most: number; whose: string } | undefined {
  const driven = drivenWith(facts, motor);
  if (!driven) return undefined;
  const { driver, motors } = driven;
  const rated = motors.reduce((sum, { type }) => sum + motorCurrent({ ratedRms: type.rated_a, share: MOST_SHARE }).amps, 0);
  return { most: Math.min(rated, moduleLimit(driver).amps), whose: motors.length > 1 ? `its ${motors.length} motors` : 'this motor' };
} // prettier-ignore

function* judged(facts: Facts, settings: Settings, looked: Looked, { lost, seen, figures, driver, warmth }: Watched): Procedure<Found> {
  const { motor, called } = looked;
  const key = `current.${looked.key}`;
  const told = hears(facts, settings, motor);
  const now = told ? (yield* onBoard(facts.kit, settings, [key]))[key] ?? NaN : numberOf(settings, key);
  const { most, whose } = mostFor(facts, motor) ?? { most: now, whose: 'this motor' };
  const driverHot = driver !== undefined && (driver.state !== 'well' || driver.degrees > DRIVER_HOT_C);
  const hot = warmth === 'hot' || driverHot;
  const said = driver ? `, its driver says ${driver.state}, ${driver.degrees} °C` : '';
  const evidence = [`${seen}, motor ${warmth}${said}`, `${now} A now; at most ${round(most, 2)} A for ${whose} and driver`];
  const value = round(lost ? Math.min(most, now * MORE) : hot ? now * LESS : now, 2);
  const because = lost ? `${lost.words} at ${now} A` : hot ? `hot at ${now} A, and no step lost` : 'moved fast: no step lost, and not hot';
  const set = {
    evidence,
    figures: [...figures, { id: `current-${looked.key}`, label: `${called} current`, value, unit: 'A' }],
    values: [{ key, value, because }],
    lines: told ? [setsLine(facts.kit, { [key]: value })] : [],
  };
  const pot = set.lines.length === 0 ? ' Its driver is set at its pot: turn that, the file only remembers it.' : '';
  if (!lost && value === now) return found(`${now} A are right: no step is lost, and it ${warmth === 'cool' ? 'stays' : 'gets'} ${warmth}.`, set);
  if (!lost) return found(`It loses no step and is hot: ${value} A instead of ${now} A.${pot} Then measure it again.`, set);
  const quiet = quietWords(facts, settings, looked);
  if (value <= now) return found(`It loses steps at ${now} A, which is all ${whose} and driver may have. ${quiet}Slow it down at Settings, or look for what binds.`, { evidence, figures, causes: lost.causes, ...(quiet && { remedy: byForce(looked, lost.words, now) }) }, 'poor');
  return found(`${lost.words.charAt(0).toUpperCase()}${lost.words.slice(1)}: ${value} A instead of ${now} A.${pot} ${quiet}Then measure it again.`, { ...set, causes: lost.causes });
} // prettier-ignore

const byForce = ({ of, called }: Looked, lost: string, amps: number): Remedy => ({
  label: `Let ${of === 'e' ? 'the extruder' : called} run by force`,
  edits: [overrideEdit(`torque.${of}`, 'torque', `${lost} at ${amps} A, run quietly`)],
});

/** Whether its driver takes a current over the link; one that is set at its pot does not, whatever stands beside it. */
const hears = (facts: Facts, settings: Settings, motor: Looked['motor']): boolean =>
  driverOf(facts, motor)?.type.mode !== 'stand-alone' &&
  missingOf(facts, settings, ['current']) === undefined;

const quietWords = (facts: Facts, settings: Settings, { of, motor }: Looked): string =>
  settings.get(`torque.${of}`)?.value === 'quiet' && driverOf(facts, motor)?.type.mode !== 'stand-alone' // prettier-ignore
    ? `It runs quiet: by force it has about a third more, and is heard (torque.${of}). `
    : '';

const BINDS = [
  { cause: 'Something binds', look: 'Motors off: push the axis by hand over its whole way. It must go evenly.' },
  { cause: 'It is asked to be too fast', look: 'Lower its speed or its acceleration at Settings.' },
  { cause: 'A belt jumps, a grub screw slips', look: 'Mark pulley and shaft with a pen: the marks must stay together.' },
]; // prettier-ignore
const FEEDS_BADLY = [
  { cause: 'The nozzle is partly blocked, or too cold for that speed', look: 'Feed slowly: it must come out straight and even. Heat 10 °C more.' },
  { cause: 'The lever presses too little or too much', look: 'Feel the filament: a flat ground into it tells.' },
  { cause: 'It is asked to be too fast', look: 'No hot end melts more than it can: try half the speed.' },
]; // prettier-ignore
