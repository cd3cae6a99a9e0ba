import { bodyCalled } from '../machine/bodyCalled';
import { type Facts, partFor, partsOf } from '../machine/facts';
import { WARMED, type Warmed } from '../machine/machine';
import { type Answer, ask, type Procedure, replies } from '../bringup/procedure';

/** A body whose temperature the board tells, by the name the board gives it. */
export interface Sensed {
  name: Warmed;
  called: string;
  /** Its sensor's id. */
  sensor: string;
}

/** Everything with a sensor that the board tells the temperature of. */
export function sensedBodies(facts: Facts): Sensed[] {
  return partsOf(facts, 'thermistor').flatMap(({ id, role }) =>
    WARMED.filter((name) => name === role).map((name) => ({ name, called: bodyCalled(name), sensor: id })),
  );
}

/** Everything that has both heater and sensor. */
export const heatedBodies = (facts: Facts): Sensed[] =>
  sensedBodies(facts).filter(({ name }) => partFor(facts, 'heater', name) !== undefined);

/** What the board reads of its bodies now, in °C, with how hard each is heated (0 to 1) and at what target. */
export type BodyReadings = Readonly<Record<string, { now: number; target: number; duty: number }>>;

/** Asks for all temperatures; what the board does not tell is not there. */
export function* readBodies(): Procedure<BodyReadings> {
  return bodiesIn(yield* ask('M105'));
}

/** What an answer tells of bodies. */
export function bodiesIn(answer: Answer): BodyReadings {
  return Object.fromEntries(
    replies(answer, 'heat').flatMap(({ values }) => {
      const [now, target, duty] = [values['now'], values['target'], values['duty']].map(Number);
      const body = values['body'];
      if (body === undefined || now === undefined || !Number.isFinite(now)) return [];
      return [[body, { now, target: target ?? 0, duty: duty ?? 0 }]];
    }),
  );
}
