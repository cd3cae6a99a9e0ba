import { measuredBy } from './measured';

/** Settings that name a machine, tell its size, or follow from how its own drives are made and wired. */
const ITSELF =
  /^(machine\.name$|travel\.|bed\.[xy]\.|map\.[xy]\.|home\.spot\.|park\.[xy]$|steps\.|direction\.)/;

/**
 * Why the value of a setting is no other machine's: it was measured on one, and may ram a nozzle into a plate or pull a
 * motor too hard on its twin; or it tells what one is itself. Undefined where it may well be the same on several.
 */
export function ofOneMachine(key: string): 'measured' | 'itself' | undefined {
  if (measuredBy(key)) return 'measured';
  return ITSELF.test(key) ? 'itself' : undefined;
}
