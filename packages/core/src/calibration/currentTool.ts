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
import { motorCurrent } from '../electricity/driverReference';
import { driverOf, type Facts, partFor } from '../machine/facts';
import { type Axis, AXES } from '../machine/machine';
import { numberOf, type Settings, spanOf } from '../settings/setting';
import {
  type CalibrationTool,
  endedBy,
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
export const currentTools = (facts: Facts, settings: Settings): CalibrationTool[] =>
  AXES.filter((axis) => driverOf(facts, partFor(facts, 'motor', axis))).map((axis) =>
    currentTool(facts, settings, axis),
  );

function currentTool(facts: Facts, settings: Settings, axis: Axis): CalibrationTool {
  const called = axis.toUpperCase();
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
      return 'ended' in felt ? endedBy(felt.ended) : judged(facts, settings, axis, { ...moved, warmth: felt.chosen });
    },
  };
  return tool;
} // prettier-ignore

interface Moved {
  /** Where it was met against where it was believed, mm. */
  offMm: number;
  /** What its driver says, where it says something. */
  driver?: { state: string; degrees: number };
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
  const state = yield* ask('state');
  const told = replies(state, 'driver').find(({ values }) => values['axis'] === axis)?.values;
  const again = yield* ask(`G28 ${called}`);
  if (again.problem !== undefined) return { ended: again };
  const offMm = Number(replies(again, 'home').find(({ values }) => values['axis'] === axis)?.values['off'] ?? NaN);
  if (!Number.isFinite(offMm))
    return { ended: { ...again, problem: 'error: this image does not tell how far off an axis was met' } };
  return { offMm, ...(told && { driver: { state: told['state'] ?? '?', degrees: Number(told['degrees'] ?? NaN) } }) };
} // prettier-ignore

function judged(facts: Facts, settings: Settings, axis: Axis, { offMm, driver, warmth }: Moved & { warmth: string }): Found {
  const called = axis.toUpperCase();
  const now = numberOf(settings, `current.${axis}`);
  const motor = partFor(facts, 'motor', axis);
  const most = Math.min(motor ? motorCurrent({ ratedRms: motor.type.rated_a, share: MOST_SHARE }).amps : now, driverOf(facts, motor)?.type.max_a ?? now);
  const lost = Math.abs(offMm) > LOST_MM;
  const driverHot = driver !== undefined && (driver.state !== 'well' || driver.degrees > DRIVER_HOT_C);
  const said = driver ? `, its driver says ${driver.state}, ${driver.degrees} °C` : '';
  const evidence = [`met ${offMm.toFixed(3)} mm from where it was believed, motor ${warmth}${said}`, `${now} A now; at most ${round(most, 2)} A for this motor and driver`];
  const figures = [{ id: `lost-${axis}`, label: `${called}: off after fast moves`, value: round(Math.abs(offMm), 3), unit: 'mm' }];
  const wanted = lost ? Math.min(most, now * MORE) : warmth === 'hot' || driverHot ? now * LESS : now;
  const value = round(wanted, 2);
  const set = {
    evidence,
    figures: [...figures, { id: `current-${axis}`, label: `${called} current`, value, unit: 'A' }],
    values: [{ key: `current.${axis}`, value, because: lost ? `lost ${Math.abs(offMm).toFixed(2)} mm of steps at ${now} A` : warmth === 'hot' || driverHot ? `hot at ${now} A, and no step lost` : 'moved fast: no step lost, and not hot' }],
    lines: missingOf(facts, settings, ['current']) === undefined ? [`current ${axis}=${value}`] : [],
  };
  const pot = set.lines.length === 0 ? ' Its module is set at its pot: turn that, the file only remembers it.' : '';
  if (!lost && value === now) return found(`${now} A are right: no step is lost, and it gets ${warmth}.`, set);
  if (!lost) return found(`It loses no step and is hot: ${value} A instead of ${now} A.${pot} Then measure it again.`, set);
  if (value <= now) return found(`It loses steps at ${now} A, which is all this motor and driver may have. ${quietWords(facts, settings, axis)}Slow it down at Settings, or look for what binds.`, { evidence, figures, causes: BINDS }, 'poor');
  return found(`It lost ${Math.abs(offMm).toFixed(2)} mm of steps: ${value} A instead of ${now} A.${pot} ${quietWords(facts, settings, axis)}Then measure it again.`, { ...set, causes: BINDS });
} // prettier-ignore

const quietWords = (facts: Facts, settings: Settings, axis: Axis): string =>
  settings.get(`torque.${axis}`)?.value === 'quiet' && driverOf(facts, partFor(facts, 'motor', axis))?.type.mode !== 'stand-alone' // prettier-ignore
    ? `It runs quiet: by force it has about a third more, and is heard (torque.${axis}). `
    : '';

const BINDS = [
  { cause: 'Something binds', look: 'Motors off: push the axis by hand over its whole way. It must go evenly.' },
  { cause: 'It is asked to be too fast', look: 'Lower its speed or its acceleration at Settings.' },
  { cause: 'A belt jumps, a grub screw slips', look: 'Mark pulley and shaft with a pen: the marks must stay together.' },
]; // prettier-ignore
