import { SECOND_HOTEND } from '../machine/machine';
import type { FactKey } from '../machine/touched';

/** The facts that a measured value belongs to, and what happens when one of them changes. */
export interface Measured {
  restsOn: readonly FactKey[];
  then: 'measure again' | 'rescale';
}

/**
 * What was measured on a machine holds only while the facts it rests on stay: PID belongs to heater, what switches it,
 * sensor, supply and board, an offset to its mount, a current to its driver's convention. Extruder steps only scale.
 * By option keys; `$1` is what the pattern found.
 */
const MEASURED: readonly (Measured & { key: RegExp })[] = [
  { key: /^pid\.hotend\./, restsOn: ['board', 'supply', 'heater.hotend', 'relay.hotend', 'thermistor.hotend', 'hotend', 'fan.part'], then: 'measure again' },
  { key: /^pid\.second-hotend\./, restsOn: ['board', 'supply', `heater.${SECOND_HOTEND}`, `relay.${SECOND_HOTEND}`, `thermistor.${SECOND_HOTEND}`, 'hotend', 'fan.part'], then: 'measure again' },
  { key: /^pid\.bed\./, restsOn: ['board', 'supply', 'heater.bed', 'relay.bed', 'thermistor.bed', 'frame.bed'], then: 'measure again' },
  { key: /^pid\.chamber\./, restsOn: ['board', 'supply', 'heater.chamber', 'relay.chamber', 'thermistor.chamber'], then: 'measure again' },
  { key: /^probe\.offset\.[xy]$/, restsOn: ['probe', 'probe-mount', 'hotend'], then: 'measure again' },
  { key: /^probe\.offset\.z$/, restsOn: ['probe', 'probe-mount', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^nudge\.start$/, restsOn: ['probe', 'probe-mount', 'hotend', 'nozzle', 'switch.z', 'frame.bed'], then: 'measure again' },
  { key: /^home\.shift\.z$/, restsOn: ['probe', 'probe-mount', 'switch.z', 'frame.switches'], then: 'measure again' },
  { key: /^(?:current|stall|stall\.level)\.([xyze])$/, restsOn: ['board', 'driver.$1', 'motor.$1'], then: 'measure again' },
  { key: /^current\.second-e$/, restsOn: ['board', 'driver.e2', 'motor.e2'], then: 'measure again' },
  { key: /^lead\.time$/, restsOn: ['axis.e', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^lead\.time\.second-e$/, restsOn: ['axis.e2', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^steps\.e$/, restsOn: ['axis.e', 'driver.e', 'motor.e'], then: 'rescale' },
  { key: /^steps\.second-e$/, restsOn: ['axis.e2', 'driver.e2', 'motor.e2'], then: 'rescale' },
]; // prettier-ignore

/** What the value of a setting rests on; undefined for a setting that nobody measures. */
export function measuredBy(key: string): Measured | undefined {
  for (const { key: looks, restsOn, then } of MEASURED) {
    const found = looks.exec(key);
    if (found) return { restsOn: restsOn.map((fact) => fact.replace('$1', found[1] ?? '')), then };
  }
  return undefined;
}
