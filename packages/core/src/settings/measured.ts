import { SECOND_HOTEND } from '../machine/machine';
import type { FactKey } from '../machine/touched';

/** A setting that is measured, and the facts its value belongs to. */
export interface Measured {
  /** Pattern of option keys. */
  key: RegExp;
  restsOn: FactKey[];
  /** What happens when one of those facts changed. */
  then: 'measure again' | 'rescale';
}

/**
 * What was measured on a machine holds only while the facts it rests on stay: PID belongs to heater, sensor, supply
 * and board, an offset to its mount, a current to its driver's convention. Extruder steps only scale.
 */
export const MEASURED: readonly Measured[] = [
  { key: /^pid\.hotend\./, restsOn: ['heater.hotend', 'thermistor.hotend', 'hotend', 'supply', 'board', 'fan.part'], then: 'measure again' },
  { key: /^pid\.second-hotend\./, restsOn: [`heater.${SECOND_HOTEND}`, `thermistor.${SECOND_HOTEND}`, 'hotend', 'supply', 'board', 'fan.part'], then: 'measure again' },
  { key: /^pid\.bed\./, restsOn: ['heater.bed', 'thermistor.bed', 'relay.bed', 'supply', 'board', 'frame.bed'], then: 'measure again' },
  { key: /^pid\.chamber\./, restsOn: ['heater.chamber', 'thermistor.chamber', 'supply', 'board'], then: 'measure again' },
  { key: /^probe\.offset\./, restsOn: ['probe', 'probe-mount', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^home\.shift\.z$/, restsOn: ['probe', 'probe-mount', 'switch.z', 'frame.switches'], then: 'measure again' },
  { key: /^current\.(x|y|z|e|second-e)$/, restsOn: ['board', 'driver.*', 'motor.*'], then: 'measure again' },
  { key: /^stall\./, restsOn: ['board', 'driver.*', 'motor.*'], then: 'measure again' },
  { key: /^lead\.time$/, restsOn: ['axis.e', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^lead\.time\.second-e$/, restsOn: ['axis.e2', 'hotend', 'nozzle'], then: 'measure again' },
  { key: /^steps\.e$/, restsOn: ['axis.e', 'driver.e', 'motor.e'], then: 'rescale' },
  { key: /^steps\.second-e$/, restsOn: ['axis.e2', 'driver.e2', 'motor.e2'], then: 'rescale' },
]; // prettier-ignore

export const measuredBy = (key: string): Measured | undefined =>
  MEASURED.find((entry) => entry.key.test(key));
