import type { Catalogue } from '../catalogue/catalogue';
import { boardPullUp } from '../circuit/circuit';
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

/** How the chip reads a sensor (`hotend`, `second-hotend`, `second`, …): its bits, and the pull-up of the input it sits on. */
export function sensorInput(facts: Facts, sensor: string): { bits: number; pullupOhms: number } {
  const pin = pinOf(facts, sensorOf(facts, sensor), 'signal');
  return {
    bits: facts.chip.adc_bits,
    pullupOhms: boardPullUp(facts, pin)?.pull_up_ohms ?? USUAL_PULL_UP_OHMS,
  };
}

/** Every thermistor of the catalogue. */
export const thermistorsOf = ({ parts }: Catalogue): PartOf<'thermistor'>[] =>
  parts.filter((part): part is PartOf<'thermistor'> => part.kind === 'thermistor');
