import type { ThermistorPart } from '../parts/part';
import { type Facts, partFor, type PlacedPart } from './facts';

/** The role of a thermistor that measures the hot end once more; one of any other name says nothing about it. */
export const SPARE = 'spare';

/** The second sensor of the hot end. */
export const spareSensor = (facts: Facts): PlacedPart<ThermistorPart> | undefined =>
  partFor(facts, 'thermistor', SPARE);
