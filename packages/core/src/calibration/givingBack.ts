import { ask, type Procedure } from '../bringup/procedure';
import type { Facts } from '../machine/facts';
import type { Settings } from '../settings/setting';
import { onBoard, setsLine } from './boardSetting';
import { missingOf } from './calibrationTool';
import { lift } from './warmUp';

/**
 * Carries out what changes settings of the running board to measure. Afterwards, whatever came, it has them as before:
 * what was found is set when a person says so, and what they had tuned may be stored nowhere.
 * @param keys of one line of the kit; `what` is told the values the board had
 */
export function* givingBack<Key extends string, T>(
  { kit }: Facts,
  settings: Settings,
  keys: readonly Key[],
  what: (had: Readonly<Record<Key, number>>) => Procedure<T>,
): Procedure<T> {
  const had = yield* onBoard(kit, settings, keys);
  const result = yield* what(had);
  yield* ask(setsLine(kit, had));
  return result;
}

/** The same of the nudge, for what takes it away or tries others. */
export function* givingNudgeBack<T>(
  facts: Facts,
  settings: Settings,
  what: (hadMm: number) => Procedure<T>,
): Procedure<T> {
  if (missingOf(facts, settings, ['nudge']) !== undefined) return yield* what(0);
  return yield* givingBack(facts, settings, ['nudge.start'], function* (had) {
    const result = yield* what(had['nudge.start']);
    // It acts at once: not while the nozzle stands on a shim.
    yield* lift();
    return result;
  });
}
