import type { ThermistorPart } from '../parts/part';
import { type Facts, partsOf, type PlacedPart } from './facts';
import { WARMED } from './machine';

/** Roles of thermistors that stand for something else than the hot end once more. */
const OTHERS: readonly string[] = WARMED;

/** The second sensor of the hot end: the first thermistor that measures nothing else. */
export const spareSensor = (facts: Facts): PlacedPart<ThermistorPart> | undefined =>
  partsOf(facts, 'thermistor').find(({ role }) => !OTHERS.includes(role));
