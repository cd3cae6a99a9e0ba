import { picksSupply } from '../board/picksSupply';
import { ask, ended, type Procedure, type Run, seen, tell, wait } from '../bringup/procedure';
import { type Facts, partFor } from '../machine/facts';
import { SECOND_HOTEND } from '../machine/machine';
import { isMains } from '../parts/part';
import { canHeat, firstTool, heatLine } from '../bringup/heatLines';
import { bodiesIn, type BodyReadings, heatedBodies, readBodies, type Sensed } from './bodies';
import { has, type PossibleCause, possibleOn } from './possibleOn';
import { found, type Proof, proof, proven, type Verdict } from './proof';

/** How far a body is warmed to see that it warms, in °C. */
const RISE_C: Readonly<Record<string, number>> = { hotend: 25, [SECOND_HOTEND]: 25, bed: 10, chamber: 5 };
/** Another body that rises by so much is warmed, too. */
const OTHER_C = 3;
/** How long one that nobody has seen warm is given, in s. */
const UNSEEN_S = 300;
/** It may take so many times as long as its watts say, or so much less, before something is wrong with it. */
const SLOW = 2;
const FAST = 0.55;
/** A body that rises by so much within some seconds in which nothing was asked of it is heated all the same, in °C. */
const STUCK_C = 3;
/** From the first degrees on it is watched: before that the sensor lags. */
const FROM_C = 2;

const CAUSES: Readonly<Record<string, readonly PossibleCause[]>> = {
  leaps: [
    { cause: 'The contact of that sensor is loose: its reading leaps, faster than its heater could warm it', look: 'Ask for no heat, and let it cool. Watch the reading while you move its wire; then, with the power off, crimp it anew.' },
    { cause: 'That sensor’s lead lies beside a heater’s or a motor’s', look: 'Lead it apart from them.' },
    { cause: 'The leads of two heaters are exchanged, and that one is far stronger than described', look: 'Supply off. Follow the wires from the body that warmed to the board.', at: 'wiring', when: has('heater', 2) },
  ],
  other: [
    { cause: 'The leads of two heaters are exchanged', look: 'Supply off. Follow the wires from the body that warmed to the board.', at: 'wiring', when: has('heater', 2) },
    { cause: 'The plugs of two sensors are exchanged', look: 'Warm each sensor by hand again.', when: has('thermistor', 2) },
  ],
  none: [
    { cause: 'Heater and fan are on each other’s place', look: 'Does a fan turn while heat is asked for? Then exchange their leads, with the supply off.', at: 'wiring', when: has('fan') },
    { cause: 'The supply is off: USB alone warms nothing', look: 'Look at its lamp, where it has one, and measure at the board’s terminal.', when: ({ board }) => picksSupply(board) },
    { cause: 'The heater has no contact, or is burnt out', look: 'Supply off. Measure its ohms at the terminal.' },
    { cause: 'Its sensor hangs beside it', look: 'Look that the bead sits in its hole: it may be hotter than it says.' },
    { cause: 'Its fuse is blown', look: 'Look at the fuses of the board, with the supply off.' },
  ],
  hardly: [
    { cause: 'Its sensor hangs beside it: it may be hotter than it says', look: 'Supply off, let it cool. Look that the bead sits in its hole and touches metal.' },
    { cause: 'It is far weaker than its guard was set for', look: 'Supply off. Measure its ohms: volts times volts by ohms gives its watts.', at: 'settings' },
  ],
  slow: [
    { cause: 'It is made for another voltage, or weaker than was described', look: 'Supply off. Measure its ohms: volts times volts by ohms gives its watts.', at: 'settings' },
    { cause: 'Its sensor sits loose', look: 'Look that the bead touches metal.' },
    { cause: 'A fan blows at it', look: 'Switch the part fan off and test again.', when: (facts) => partFor(facts, 'fan', 'part') !== undefined },
  ],
  fast: [
    { cause: 'It is made for a lower voltage than your supply gives', look: 'Read its label. A 12 V heater on 24 V gives four times its watts: change it, or the supply.', at: 'settings' },
    { cause: 'It is stronger than was described', look: 'Supply off. Measure its ohms.', at: 'settings' },
    { cause: 'Its sensor is of another type than was set', look: 'Name it by ohms at two known temperatures.', at: 'settings' },
  ],
  stuck: [
    { cause: 'Its switching element conducts always', look: 'Supply off at once. Change the board, or its relay.' },
    { cause: 'It is wired past the board', look: 'Supply off. Compare its leads with the swap sheet.', at: 'wiring' },
  ],
}; // prettier-ignore

/** What was read, and when by the machine's clock, in s. */
interface Timed {
  atS: number;
  bodies: BodyReadings;
}

interface Warming {
  /** About one each second, before heat was asked for; and just then. */
  idle: Timed[];
  before: BodyReadings;
  /** About one each second, from when heat was asked for. */
  readings: Timed[];
  after: BodyReadings;
  /** What ended it early, as the board said it: its guard acts when nothing warms. */
  stop: string | undefined;
}

/**
 * How long a body takes from `FROM_C` to a rise with so many times its rated power, in s; undefined where nobody has seen
 * it warm. First order: t = −τ ln(1 − rise / gain).
 */
function takesS(facts: Facts, body: string, riseC: number, power: number): number | undefined {
  const warms = partFor(facts, 'heater', body)?.type.body;
  if (!warms) return undefined;
  const at = (rise: number) => -warms.tau_s * Math.log(1 - Math.min(0.99, rise / (warms.gain_c * power)));
  return at(riseC) - at(FROM_C);
}

/** What a heater gives at this machine's supply, as a share of its rated power. */
function powerHere(facts: Facts, body: string): number {
  const heater = partFor(facts, 'heater', body)?.type;
  return heater && !isMains(heater) ? (facts.machine.supply.volts_v / heater.volts) ** 2 : 1;
}

/** Each heater alone: its own sensor rises, no other, at the pace of its watts. */
export const heaterProofs = (facts: Facts): Proof[] =>
  heatedBodies(facts)
    .filter(({ name }) => canHeat(facts, name))
    .map((body) => heaterProof(facts, body));

function heaterProof(facts: Facts, body: Sensed): Proof {
  const { name, called } = body;
  const rise = RISE_C[name] ?? 5;
  const heater = partFor(facts, 'heater', name)?.type;
  const mains = heater && isMains(heater);
  return proof(
    {
      id: `heat-${name}`,
      title: `The ${called} heats, and nothing else does`,
      act: `Ask the ${called} for ${rise} °C more than it has. Its own sensor must rise, no other, as fast as ${heater ? `${heater.watts} W` : 'its heater'} can.`,
      caution: mains
        ? 'Mains can kill. Its wiring follows local codes and is a qualified electrician’s. Keep a hand on the mains switch.'
        : 'It burns fingers, and exchanged heaters burn more. Keep a hand on the power switch and your eyes on the readings.',
      restsOn: ['board', `heater.${name}`, `thermistor.${name}`, ...(partFor(facts, 'relay', name) ? [`relay.${name}`] : []), 'landing.heater', 'landing.thermistor', 'supply'],
      after: ['cold', `warm-${name}`],
      causes: possibleOn(facts, CAUSES),
    },
    function* () {
      yield* firstTool(facts);
      return yield* warm(name, rise, deadlineS(facts, name, rise));
    },
    (seenOf) => judge(facts, body, rise, takesS(facts, name, rise, 1), seenOf),
  );
} // prettier-ignore

/** It is given three times as long as its watts say, and its dead time. */
function deadlineS(facts: Facts, body: string, rise: number): number {
  const expected = takesS(facts, body, rise, Math.min(1, powerHere(facts, body)));
  return Math.ceil(3 * (expected ?? UNSEEN_S / 3) + 60);
}

function* warm(body: string, riseC: number, deadline: number): Run<Warming> {
  yield* ask(heatLine(body, 0));
  const idle = yield* stillFor(8);
  const before = idle.at(-1)?.bodies ?? {};
  const from = before[body]?.now;
  if (from === undefined) return ended({ lines: [], problem: `no reading of the ${body}` });
  yield* tell('It warms now. Watch the readings.');
  // Asked for more than it is watched for, so that it is not held back near its target.
  const on = yield* ask(heatLine(body, from + 2 * riseC));
  if (on.problem) return ended(on);
  const readings: Timed[] = [{ atS: on.atS ?? 0, bodies: before }];
  let stop: string | undefined;
  for (let last = readings[0]; last && last.atS - (on.atS ?? 0) < deadline; last = readings.at(-1)) {
    stop = (yield* ask('G4 S1')).problem;
    if (stop !== undefined) break;
    const moment = yield* wait();
    if (moment.problem) {
      yield* ask(heatLine(body, 0));
      return ended(moment);
    }
    const read = yield* readAt(last.atS + 1);
    const now = read.bodies;
    readings.push(read);
    if ((now[body]?.now ?? 0) - from >= riseC || othersRise(body, before, now) >= OTHER_C) break;
  }
  yield* ask(heatLine(body, 0));
  const cooling = yield* ask('G4 S1');
  // After a stop while it warmed, it sleeps; a stop that came now shows nothing of this heater.
  if (cooling.problem !== undefined && stop === undefined) return ended(cooling);
  const after = yield* readBodies();
  return seen({ idle, before, readings, after, stop });
}

/** Readings of so many seconds in which nothing is asked for. */
function* stillFor(seconds: number): Procedure<Timed[]> {
  const readings = [yield* readAt(0)];
  for (let second = 1; second <= seconds; second += 1) {
    yield* ask('G4 S1');
    readings.push(yield* readAt(second));
  }
  return readings;
}

/** The bodies, with the machine's clock; where it tells none, with what is taken for it. */
function* readAt(otherwise: number): Procedure<Timed> {
  const told = yield* ask('M105');
  return { atS: told.atS ?? otherwise, bodies: bodiesIn(told) };
}

/** A body follows neither its heater nor the room's air faster than by so many times its first order; and readings wander, in °C. */
const FOLLOWS = 1.5;
const WANDERS_C = 1;
/** A room is no colder, in °C. */
const AIR_C = 5;
/** Whether the reading of another body went from one look to the next as no body can. */
const leapt = (facts: Facts, body: string, readings: readonly Timed[]): boolean =>
  Object.keys(readings[0]?.bodies ?? {}).some(
    (name) =>
      name !== body &&
      readings.slice(1).some((now, index) => leaps(facts, name, readings[index] ?? now, now)),
  );

/** Between two looks: further up than its own heater warms it in that time, or further down than a room cools it. */
function leaps(facts: Facts, name: string, before: Timed, now: Timed): boolean {
  const warms = partFor(facts, 'heater', name)?.type.body;
  const [was, is] = [before.bodies[name]?.now, now.bodies[name]?.now];
  if (!warms || was === undefined || is === undefined) return false;
  const share = (FOLLOWS * (now.atS - before.atS)) / warms.tau_s;
  const up = share * warms.gain_c * powerHere(facts, name);
  const down = share * Math.max(0, was - AIR_C);
  return is - was > up + WANDERS_C || was - is > down + WANDERS_C;
}

const othersRise = (body: string, before: BodyReadings, now: BodyReadings): number =>
  Math.max(0, ...Object.entries(now).filter(([name]) => name !== body).map(([name, at]) => at.now - (before[name]?.now ?? at.now))); // prettier-ignore

function judge(facts: Facts, { name, called }: Sensed, riseC: number, rated: number | undefined, { idle, before, readings, after, stop }: Warming): Verdict {
  const from = before[name]?.now ?? 0;
  const last = readings.at(-1) ?? { atS: 0, bodies: after };
  const own = (last.bodies[name]?.now ?? from) - from;
  const inS = Math.round(last.atS - (readings[0]?.atS ?? 0));
  const moved = Object.entries(last.bodies).map(([body, { now }]) => `${body} ${(before[body]?.now ?? now).toFixed(1)} → ${now.toFixed(1)} °C in ${inS} s`);
  const evidence = [...(stop === undefined ? [] : [stop]), ...moved];
  if (from - (idle[0]?.bodies[name]?.now ?? from) > STUCK_C) return found('stuck', `${called} rose before heat was asked for`, ...evidence);
  if (othersRise(name, before, last.bodies) >= OTHER_C) return found(leapt(facts, name, [...idle, ...readings]) ? 'leaps' : 'other', ...evidence);
  if (own < FROM_C) return found('none', ...evidence);
  if (stop !== undefined) return found('hardly', ...evidence);
  if (own < riseC) return found('slow', ...evidence);
  // That its heat is off again has to be seen.
  if (!after[name]) return found('refused', ...evidence, 'asked for none, the board does not tell whether it is off');
  if (after[name].duty > 0) return found('stuck', ...evidence, 'asked for none, it is still switched on');
  if (rated === undefined) return proven(...evidence, 'how fast its heater should warm it is not known');
  const took = metAt(readings, name, from + riseC) - metAt(readings, name, from + FROM_C);
  const pace = `${took.toFixed(0)} s for the last ${riseC - FROM_C} °C; its watts say about ${rated.toFixed(0)} s`;
  if (took > SLOW * rated + 2) return found('slow', ...evidence, pace);
  return took < FAST * rated - 1 ? found('fast', ...evidence, pace) : proven(...evidence, pace);
} // prettier-ignore

/** When a temperature was first met, in s, by a straight line between the readings beside it. */
function metAt(readings: readonly Timed[], body: string, c: number): number {
  const met = readings.findIndex(({ bodies }) => (bodies[body]?.now ?? -Infinity) >= c);
  const [a, b] = [readings[met - 1], readings[met]];
  if (!a || !b) return b?.atS ?? 0;
  const [low, high] = [a.bodies[body]?.now ?? c, b.bodies[body]?.now ?? c];
  return high > low ? a.atS + ((c - low) / (high - low)) * (b.atS - a.atS) : b.atS;
}
