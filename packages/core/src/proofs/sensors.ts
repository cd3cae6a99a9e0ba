import {
  type Answer,
  ask,
  confirm,
  ended,
  type HandWork,
  type Procedure,
  type Run,
  seen,
  tell,
  wait,
} from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import { bodiesIn, type BodyReadings, type Sensed, sensedBodies } from './bodies';
import { type Cause, found, type Proof, proof, proven } from './proof';
import { has, possibleOn } from './possibleOn';

/** The temperatures a room may have, in °C. */
const ROOM_C = [5, 40] as const;
/** Below and above these a sensor's wire says it, and not its temperature. */
const WIRE_C = [-20, 150] as const;
/** A sensor that is warmed by hand rises by so much; one that is not, by less than this. */
export const MOVED_C = 3;
const STILL_C = 1.5;

/** What nobody heats rises by no more than this within so many seconds. */
const ALONE_C = 2;
const WATCHED_S = 10;

const SENSOR_CAUSES: Readonly<Record<string, readonly Cause[]>> = {
  low: [
    { cause: 'Its plug is out, or a crimp holds no wire', look: 'Measure ohms at the plug: a good sensor has some thousands, an open wire none.' },
    { cause: 'It sits on a header without its resistor', look: 'Look where it lands.', at: 'wiring' },
  ],
  high: [
    { cause: 'Its two wires touch', look: 'Measure ohms at the plug: near none means a short, often at the block’s screw.' },
    { cause: 'It is of another type than was set', look: 'Name it by ohms at two known temperatures.', at: 'settings' },
  ],
  rises: [
    { cause: 'A heater is on although nobody asked: its switching element conducts always', look: 'Supply off at once. Measure at the heater’s terminal; change the board, or its relay.' },
    { cause: 'A heater is wired past the board', look: 'Supply off. Compare its leads with the swap sheet.', at: 'wiring' },
  ],
  off: [
    { cause: 'It is of another type than was set', look: 'Name it by ohms at two known temperatures.', at: 'settings' },
    { cause: 'The part is still warm', look: 'Wait until everything is as cold as the room, and test again.' },
  ],
}; // prettier-ignore

function wrongCold(now: number): string | undefined {
  if (now < WIRE_C[0]) return 'low';
  if (now > WIRE_C[1]) return 'high';
  return now < ROOM_C[0] || now > ROOM_C[1] ? 'off' : undefined;
}

/** What the sensors read now, or the answer that tells nothing of them: a power that is off is no plug that is out. */
function* readNow(): Procedure<{ bodies: BodyReadings } | { ended: Answer }> {
  const answer = yield* ask('M105');
  return answer.problem === undefined ? { bodies: bodiesIn(answer) } : ended(answer);
}

const cold = (facts: Facts): Proof =>
  proof(
    {
      id: 'cold',
      title: 'Temperatures plausible cold',
      act: 'Read every sensor with all heaters off. Each should show the temperature of the room.',
      restsOn: ['board', 'thermistor.*', 'landing.thermistor'],
      after: ['identity'],
      causes: SENSOR_CAUSES,
    },
    function* () {
      const first = yield* readNow();
      if ('ended' in first) return first;
      // A board that has stopped over a sensor still tells what it reads.
      const watched = yield* ask(`G4 S${WATCHED_S}`);
      const later = yield* readNow();
      return 'ended' in later ? later : seen({ first: first.bodies, bodies: later.bodies, watched });
    },
    ({ first, bodies, watched }) => {
      const [low, high] = ROOM_C;
      const known = sensedBodies(facts);
      const evidence = Object.entries(bodies).map(
        ([body, { now }]) => `${body} reads ${now} °C; ${low} to ${high} °C is plausible`,
      );
      const silent = known.filter(({ name }) => !bodies[name] || !first[name]).map(({ name }) => `${name} is not read`);
      const wrong = Object.values(bodies).map(({ now }) => wrongCold(now)).find(Boolean);
      const rising = Object.entries(bodies).find(([body, { now }]) => now - (first[body]?.now ?? now) > ALONE_C);
      if (rising) return found('rises', `${rising[0]} rose by itself within ${WATCHED_S} s`, ...evidence);
      if (wrong) return found(wrong, ...evidence);
      if (silent.length > 0 || evidence.length === 0) return found('low', ...evidence, ...silent);
      // Whether one rises by itself is seen in these seconds only.
      return watched.problem === undefined ? proven(...evidence) : found('refused', watched.problem, ...evidence);
    },
  ); // prettier-ignore

/** What moved while one sensor was warmed. */
interface Moved {
  rises: Readonly<Record<string, number>>;
  gaveUp: boolean;
}

/** Lets a person warm a sensor, until one reading has risen or they give up. */
function* warmByHand(work: HandWork): Run<Moved> {
  const first = yield* readNow();
  if ('ended' in first) return first;
  const before = first.bodies;
  if (Object.keys(before).length === 0) return ended({ lines: [], problem: 'no temperature is told' });
  const hot = Object.entries(before).find(([, { now, target }]) => now > ROOM_C[1] || target > 0);
  // Nobody is told to touch what burns.
  if (hot)
    return ended({
      lines: [],
      problem: `${hot[0]} is at ${hot[1].now} °C: let everything cool first, it burns fingers`,
    });
  yield* tell(`${work.label}. Hold on until a reading moves.`, work);
  for (;;) {
    const later = yield* readNow();
    if ('ended' in later) return later;
    const rises = risesOf(before, later.bodies);
    if (Math.max(...Object.values(rises)) >= MOVED_C) {
      const letGo = yield* confirm('Let go of it.', 'I let go', work, false);
      return 'ended' in letGo ? letGo : seen({ rises, gaveUp: false });
    }
    if ((yield* wait()).problem) return seen({ rises, gaveUp: true });
  }
}

/** A rise as it stands in the evidence, and read back from there. */
const riseInWords = (body: string, rise: number) => `${body} rose ${rise.toFixed(1)} °C`;
export function readRise(line: string): { body: string; rise: number } | undefined {
  const [, body, rise] = /^(\S+) rose (-?[\d.]+) °C$/.exec(line) ?? [];
  return body === undefined ? undefined : { body, rise: Number(rise) };
}

const risesOf = (before: BodyReadings, after: BodyReadings): Record<string, number> =>
  Object.fromEntries(
    Object.entries(after).map(([body, { now }]) => [body, now - (before[body]?.now ?? now)]),
  );

const warmed = (facts: Facts, { name, called, sensor }: Sensed): Proof =>
  proof(
    {
      id: `warm-${name}`,
      title: `The ${called} sensor is the ${called}’s`,
      act: `With everything as cold as the room, warm the ${called}’s sensor with your fingers or a palm. Its reading must rise, and no other.`,
      caution: 'A heater that follows another body’s sensor burns without end. Heat nothing before this is proven.',
      restsOn: ['board', `thermistor.${name}`, 'landing.thermistor'],
      after: ['cold'],
      causes: possibleOn(facts, {
        refused: [{ cause: 'Something is warm, or a sensor is not read', look: 'Ask for no heat, wait until all is as cold as the room, and prove that first.' }],
        other: [
          { cause: 'The plugs of two sensors are exchanged', look: 'Compare the wires with the swap sheet: the reading that moved names the port it is plugged to.', at: 'wiring', when: has('thermistor', 2) },
          { cause: 'The wrong part was warmed', look: 'Follow its wire from the part to the board.' },
        ],
        none: [
          { cause: 'It hangs beside its body or is not the one you warmed', look: 'Look that the bead sits in its hole.' },
          { cause: 'Its plug sits one contact too far', look: 'Compare it with the swap sheet.', at: 'wiring' },
        ],
      }),
    },
    () => warmByHand({ do: 'warm', part: sensor, label: `Warm the ${called}’s sensor by hand` }),
    ({ rises, gaveUp }) => {
      const evidence = Object.entries(rises).map(([body, rise]) => riseInWords(body, rise));
      const others = Object.entries(rises).filter(([body]) => body !== name);
      if (others.some(([, rise]) => rise >= MOVED_C)) return found('other', ...evidence);
      if ((rises[name] ?? 0) < MOVED_C) return found('none', ...evidence, ...(gaveUp ? ['then you gave up'] : []));
      return others.some(([, rise]) => rise >= STILL_C) ? found('other', ...evidence) : proven(...evidence);
    },
  ); // prettier-ignore

/** Every sensor reads the room, and each is the one it is taken for. */
export const sensorProofs = (facts: Facts): Proof[] => [
  cold(facts),
  ...sensedBodies(facts).map((body) => warmed(facts, body)),
];
