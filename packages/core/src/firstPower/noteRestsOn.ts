import type { Facts } from '../machine/facts';
import { type FactKey, factsOfPart } from '../machine/touched';
import { meterRows } from './metering';

/** All that gets power: nothing wired anew is energised at once. */
const WIRED: readonly FactKey[] = [
  'board', 'supply', 'driver.*', 'motor.*', 'heater.*', 'relay.*', 'thermistor.*', 'switch.*', 'probe', 'fan.*', 'servo.*',
  'lamp.*', 'display.*', 'filament-sensor.*', 'plug.*', 'landing.*',
]; // prettier-ignore

/**
 * The facts that a tick or a reading of the first power rests on: the reading of a part on that part, its wiring and the
 * board; a module's seat on the module; everything else on all that is wired.
 */
export function noteRestsOn(facts: Facts, asked: string): readonly FactKey[] {
  const measured = meterRows(facts).find(({ id }) => id === asked)?.part ?? /^module-(.+)$/.exec(asked)?.[1];
  const part = facts.parts.find(({ id }) => id === measured);
  return part ? ['board', ...factsOfPart(facts, part)] : WIRED;
}
