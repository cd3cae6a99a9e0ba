import {
  type Answer,
  ask,
  confirm,
  ended,
  type HandWork,
  type Procedure,
  replies,
  type Run,
  seen,
  tell,
  wait,
} from '../bringup/procedure';
import { type Facts, partFor } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { numberOf, type Settings } from '../settings/setting';
import { SPARE, spareSensor } from '../machine/spareSensor';
import { isOn } from '../settings/understands';
import { coldLines, canHeat, firstTool, heatLine } from '../bringup/heatLines';
import { bodiesIn, type BodyReadings, heatedBodies, readBodies, type Sensed } from './bodies';
import { type Cause, found, type Proof, proof, proven, type Verdict } from './proof';

/** A guard is tripped from so far above the drop it allows, in °C; nothing has to get hotter than that for it. */
const ABOVE_DROP_C = 20;
/** So long a target is held before it is cooled, in s. */
const HELD_S = 12;
/** So long a person is waited for, in s of the machine's clock. */
const PATIENCE_S = 900;
/** What may pass between a reading and the stop beyond what the settings promise, in s: it is asked once a second. */
const SLACK_S = 3;
/** A target is held within so much, in °C. */
const NEAR_C = 3;
/** A pulled sensor is no temperature: the board has to stop at once. */
const AT_ONCE_S = 2;
const WIRE_C = [-15, 350] as const;

const CAUSES: Readonly<Record<string, readonly Cause[]>> = {
  never: [
    { cause: 'The guard of this heater is not in the image', look: 'Switch it on, build and flash. Print nothing before.', at: 'settings' },
    { cause: 'The image that runs is an old one', look: 'Prove again which image runs.' },
    { cause: 'It was not cooled far enough', look: 'Cool it harder: the reading must fall well below its target and stay there.' },
  ],
  late: [{ cause: 'Its times are set too long', look: 'Let the facts decide them.', at: 'settings' }],
  'still heats': [{ cause: 'The switching element conducts always', look: 'Supply off at once. Change the board, or its relay.' }],
  'other stop': [{ cause: 'Something else stopped it first', look: 'Read why, and settle that.' }],
}; // prettier-ignore

/** What was seen while a guard was made to trip. */
interface Tripped {
  /** What ended it, as the board said it. */
  stop: string | undefined;
  /** From the first reading that should trip it, in s of the machine's clock. */
  tookS: number;
  /** What the board says of its heaters after. */
  after: BodyReadings;
  state: string | undefined;
}

/** Every guard made to trip on purpose: cooled from outside while it holds, and its sensor's plug pulled. */
export const guardProofs = (facts: Facts, settings: Settings): Proof[] => {
  const heated = heatedBodies(facts).filter(({ name }) => canHeat(facts, name));
  const spare = isOn(settings, 'sensor.spare') ? spareSensor(facts) : undefined;
  const parted = facts.kit.messages.find(({ name }) => name === 'SENSORS_PART')?.say;
  return [
    ...heated
      .filter(({ name }) => isOn(settings, `guard.${heatKey(name)}`))
      .flatMap((body) => [cooled(facts, settings, body), pulled(facts, settings, body)]),
    ...heated.filter(({ name }) => name === 'hotend').flatMap((body) => (spare && parted !== undefined ? [sparePulled(facts, body, spare.id, parted)] : [])),
  ];
}; // prettier-ignore

/** A heater whose guard no step makes trip. */
export interface Untripped {
  called: string;
  /** The setting that switches its guard. */
  guard: string;
  /** Its guard is off; else it is on, and nothing here heats this body alone. */
  off: boolean;
}
export const untripped = (facts: Facts, settings: Settings): Untripped[] =>
  heatedBodies(facts).flatMap(({ name, called }) => {
    const guard = `guard.${heatKey(name)}`;
    const off = !isOn(settings, guard);
    return off || !canHeat(facts, name) ? [{ called, guard, off }] : [];
  });
const RESTS_ON = (name: string) => ['board', 'image', `heater.${name}`, `thermistor.${name}`, 'landing.heater', 'landing.thermistor', 'supply']; // prettier-ignore

const BLOCK = 'Blow at its block with a fan, or lay a damp cloth against it with pliers';
/** How a body is cooled from outside by what everybody has. */
const COOLED_BY: Readonly<Record<string, string>> = {
  hotend: BLOCK,
  [SECOND_HOTEND]: BLOCK,
  bed: 'Lay a bag of ice water on the plate, above its sensor',
  chamber: 'Open the door and fan cold air in',
};

function cooled(facts: Facts, settings: Settings, body: Sensed): Proof {
  const { name, called } = body;
  const drop = numberOf(settings, `guard.${heatKey(name)}.drop`);
  const promised = numberOf(settings, `guard.${heatKey(name)}.drop-time`);
  return proof(
    {
      id: `guard-${name}`,
      title: `The ${called}’s guard trips when it is cooled`,
      act: `Hold the ${called} warm. ${COOLED_BY[name] ?? 'Cool it from outside'}, until it has fallen ${drop} °C below its target. Within ${promised} s the board must switch all heat off and say so.`,
      caution: 'It is hot, and it heats as hard as it can while you cool it. Keep fingers off, and a hand on the power switch.',
      restsOn: RESTS_ON(name),
      after: [`heat-${name}`],
      causes: CAUSES,
      guards: true,
    },
    () => trip(facts, body, drop + ABOVE_DROP_C, { do: 'cool', part: heaterOf(facts, name), label: `Cool the ${called} from outside` }, (now, target) => now < target - drop),
    (tripped) => judge(body, promised + SLACK_S, tripped),
  );
} // prettier-ignore

function pulled(facts: Facts, settings: Settings, body: Sensed): Proof {
  const { name, called, sensor } = body;
  const above = Math.min(numberOf(settings, `guard.${heatKey(name)}.drop`) + ABOVE_DROP_C, ABOVE_DROP_C);
  return proof(
    {
      id: `guard-${name}-sensor`,
      title: `The ${called}’s guard trips when its sensor is gone`,
      act: `Warm the ${called} a little and pull the plug of its sensor. The board must switch all heat off at once and say so. Plug it in again.`,
      caution: 'Pull this plug only: a sensor’s has a few volts. Never unplug motors, drivers or heaters under power.',
      restsOn: RESTS_ON(name),
      after: [`heat-${name}`],
      causes: CAUSES,
      guards: true,
    },
    () => trip(facts, body, above, { do: 'pull', part: sensor, label: `Pull the plug of the ${called}’s sensor` }, (now) => now < WIRE_C[0] || now > WIRE_C[1]),
    (tripped) => judge(body, AT_ONCE_S + 1, tripped),
  );
} // prettier-ignore

const SPARE_CAUSES: Readonly<Record<string, readonly Cause[]>> = {
  ...CAUSES,
  never: [
    { cause: 'The second sensor is not read by the image that runs', look: 'Prove again which image runs. Then look at Settings whether it is on.' },
    { cause: 'Another plug was pulled', look: 'Follow the lead from the hot end to its header.', at: 'wiring' },
  ],
  'other stop': [
    { cause: 'The plug of the first sensor was pulled: the two are exchanged', look: 'Compare both leads with the swap sheet, with the supply off.', at: 'wiring' },
    ...(CAUSES['other stop'] ?? []),
  ],
}; // prettier-ignore

/**
 * The reading of the second sensor is told nowhere: that the board reads it is seen by what it does without.
 * @param parted the reason the board gives when the two do not agree
 */
function sparePulled(facts: Facts, body: Sensed, spare: string, parted: string): Proof {
  return proof(
    {
      id: 'guard-spare',
      title: 'The hot end stops when its second sensor is gone',
      act: 'Warm the hot end a little and pull the plug of its second sensor. The board must say that the two do not agree, and switch all heat off. Plug it in again.',
      caution: 'Pull this plug only: a sensor’s has a few volts. Never unplug motors, drivers or heaters under power.',
      restsOn: [...RESTS_ON(body.name), `thermistor.${SPARE}`],
      after: [`heat-${body.name}`],
      causes: SPARE_CAUSES,
      guards: true,
    },
    () => trip(facts, body, ABOVE_DROP_C, { do: 'pull', part: spare, label: 'Pull the plug of the second sensor' }, () => false),
    (tripped) => judge(body, undefined, tripped, parted),
  );
} // prettier-ignore

const heaterOf = (facts: Facts, body: string): string => partFor(facts, 'heater', body)?.id ?? body;

/** Warms a body and holds it, lets a person do their work, and waits for the stop. */
function* trip(
  facts: Facts,
  { name, called }: Sensed,
  aboveC: number,
  work: HandWork,
  trips: (now: number, target: number) => boolean,
): Run<Tripped> {
  yield* firstTool(facts);
  const cold = (yield* readBodies())[name];
  if (!cold) return ended({ lines: [], problem: `no reading of the ${name}` });
  const target = Math.round(Math.max(cold.now, 20) + aboveC);
  yield* tell(`The ${called} warms to ${target} °C. Have what you need at hand.`);
  const on = yield* ask(heatLine(name, target));
  if (on.problem) return ended(on);
  const held = yield* hold(name, target);
  if (held) return yield* cooledDown(facts, held);
  yield* tell(`${work.label}, now.`, work);
  const { stop, tookS, gaveUp } = yield* awaitStop(name, target, trips);
  if (!gaveUp) {
    if (work.do === 'pull') yield* confirm('Plug it in again.', 'It is plugged in', work, false);
    else yield* confirm('Stop cooling it.', 'I stopped', work, false);
  }
  const said = replies(yield* ask('state'), 'state')[0]?.values;
  const state = said?.['doing'];
  const after = yield* readBodies();
  // What was refused is no stop: heat goes off unless the board says that it has stopped.
  if (state !== 'stopped') for (const line of coldLines(facts)) yield* ask(line);
  if (gaveUp) return ended({ lines: [], problem: gaveUp });
  // The stop may have come between two questions: then the board says why when it is asked.
  const why = said?.['why'] === undefined ? undefined : `stopped: ${said['why']}`;
  return seen({ stop: why ?? stop, tookS, after, state });
}

/** Whatever ends it early, no heater is left on. */
function* cooledDown(facts: Facts, answer: Answer): Procedure<{ ended: Answer }> {
  for (const line of coldLines(facts)) yield* ask(line);
  return ended(answer);
}

/** The time of an answer by the machine's clock, in s; a second after the one before where it has none. */
const timeOf = ({ atS }: Answer, before: number) => atS ?? before + 1;

/** Waits until a target is reached and was held for a while; the answer when something came between. */
function* hold(body: string, target: number): Procedure<Answer | undefined> {
  let [now, began, reached] = [0, NaN, NaN];
  while (!(now - began > PATIENCE_S)) {
    const waited = yield* ask('G4 S1');
    if (waited.problem) return waited;
    const told = yield* ask('M105');
    now = timeOf(told, now);
    if (Number.isNaN(began)) began = now;
    const there = Math.abs((bodiesIn(told)[body]?.now ?? -Infinity) - target) < NEAR_C;
    if (!there) reached = NaN;
    else if (Number.isNaN(reached)) reached = now;
    if (now - reached >= HELD_S) return undefined;
    const moment = yield* wait();
    if (moment.problem) return moment;
  }
  return { lines: [], problem: `it did not hold ${target} °C within ${PATIENCE_S} s` };
}

/** Waits for the stop, and measures the time from the first reading that should trip it. */
function* awaitStop(
  body: string,
  target: number,
  trips: (now: number, target: number) => boolean,
): Procedure<{ stop: string | undefined; tookS: number; gaveUp?: string }> {
  let [now, began, since] = [0, NaN, NaN];
  const took = () => (Number.isNaN(since) ? 0 : now - since);
  while (!(now - began > PATIENCE_S)) {
    for (const line of ['G4 S1', 'M105']) {
      const answer = yield* ask(line);
      now = timeOf(answer, now);
      if (answer.problem) return { stop: answer.problem, tookS: took() };
      if (Number.isNaN(began)) began = now;
      if (line !== 'M105') continue;
      if (!trips(bodiesIn(answer)[body]?.now ?? target, target)) since = NaN;
      else if (Number.isNaN(since)) since = now;
    }
    const moment = yield* wait();
    if (moment.problem) return { stop: undefined, tookS: took(), gaveUp: moment.problem };
  }
  return { stop: undefined, tookS: took() };
}

const STOPPED = /^stopped: /;

/**
 * @param withinS missing where no reading tells when it should have stopped
 * @param because the reason it must stop for; any of this body where none is given
 */
function judge({ name }: Sensed, withinS: number | undefined, { stop, tookS, after, state }: Tripped, because = ''): Verdict {
  const heats = Object.entries(after).filter(([, { duty, target }]) => duty > 0 || target > 0);
  const evidence = [
    stop ?? 'it never stopped',
    ...(withinS === undefined ? [] : [`${tookS.toFixed(0)} s after the reading was out of its bounds; ${withinS} s at most`]),
    ...Object.entries(after).map(([body, { duty, target }]) => `${body}: target ${target} °C, heated ${Math.round(duty * 100)} %`),
    `then it said: ${state ?? 'nothing'}`,
  ];
  if (stop === undefined || !STOPPED.test(stop)) return found('never', ...evidence);
  if (!stop.startsWith(`stopped: ${name} ${because}`)) return found('other stop', ...evidence);
  if (heats.length > 0 || Object.keys(after).length === 0) return found('still heats', ...evidence);
  if (state !== 'stopped') return found('still heats', ...evidence);
  return withinS !== undefined && tookS > withinS ? found('late', ...evidence) : proven(...evidence);
} // prettier-ignore
