import type { Catalogue } from '../catalogue/catalogue';
import { liftingResistors } from '../circuit/circuit';
import { pinOf } from '../circuit/pinTable';
import { type Facts, partFor } from '../machine/facts';
import { spareSensor } from '../machine/spareSensor';
import { WARMED } from '../machine/machine';
import type { PartOf } from '../parts/part';
import { heatKey } from './heatKey';

/** Pull-up of a sensor input the board says nothing about, in Ω. */
export const USUAL_PULL_UP_OHMS = 4700;

/** The thermistor that a sensor is set for: of a body by its name in the settings, or the hot end's `second`. */
const sensorOf = (facts: Facts, sensor: string) =>
  sensor === 'second'
    ? spareSensor(facts)
    : partFor(facts, 'thermistor', WARMED.find((body) => heatKey(body) === sensor) ?? sensor);

/** How the chip reads a sensor (`hotend`, `second-hotend`, `second`, …): its bits, and what pulls it up, board and lead together. */
export function sensorInput(facts: Facts, sensor: string): { bits: number; pullupOhms: number } {
  const part = sensorOf(facts, sensor);
  const resistors = part ? liftingResistors(facts, part, pinOf(facts, part, 'signal')) : [];
  const [first] = resistors;
  return {
    bits: facts.chip.adc_bits,
    pullupOhms: resistors.slice(1).reduce((all, { ohms }) => (all * ohms) / (all + ohms), first?.ohms ?? USUAL_PULL_UP_OHMS),
  }; // prettier-ignore
}

/** Every thermistor of the catalogue. */
export const thermistorsOf = ({ parts }: Catalogue): PartOf<'thermistor'>[] =>
  parts.filter((part): part is PartOf<'thermistor'> => part.kind === 'thermistor');
