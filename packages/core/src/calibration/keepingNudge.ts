import { ask, type Procedure } from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { onBoard } from './boardSetting';
import { missingOf } from './calibrationTool';
import { lift } from './warmUp';

/**
 * Carries out what takes the nudge away (`bare`). Afterwards, whatever came, the board has it again: it may be tuned, and
 * stored nowhere.
 */
export function* keepingNudge<T>(facts: Facts, settings: Settings, what: () => Procedure<T>): Procedure<T> {
  if (missingOf(facts, settings, ['nudge']) !== undefined) return yield* what();
  const had = yield* onBoard(facts.kit, settings, 'nudge.start');
  const result = yield* what();
  if (had !== 0) {
    // It acts at once: not while the nozzle stands on a shim.
    yield* lift();
    yield* ask(`nudge z=${had}`);
  }
  return result;
}
