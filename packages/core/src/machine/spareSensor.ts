import type { ThermistorPart } from '../parts/part';
import { type Facts, partsOf, type PlacedPart } from './facts';
import { HEATED, SECOND_HOTEND } from './machine';

/** Roles of thermistors that stand for something else than the hot end once more. */
const OTHERS: readonly string[] = [...HEATED, 'chamber', SECOND_HOTEND];

/** The second sensor of the hot end: the first thermistor that measures nothing else. */
export const spareSensor = (facts: Facts): PlacedPart<ThermistorPart> | undefined =>
  partsOf(facts, 'thermistor').find(({ role }) => !OTHERS.includes(role));
