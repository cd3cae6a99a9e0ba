import type { Kit } from '../kit/kit';
import { optionOf } from '../kit/optionOf';
import { settingInWords } from '../kit/settingInWords';
import { storedAtMachine, type StoredValues } from '../kit/storedSettings';
import { alike } from './alike';
import type { Settings } from './setting';

/**
 * Why stored settings that were tested do not hold any more, as a clause: a value that the board stores now is neither
 * the one it stored then nor the machine file's. What a tool of Calibrate stores stands in the machine file, too; what is
 * meant to be stored at the machine is the board's own.
 * @param tested what it stored when it was tested; undefined where that was not written down
 */
export function storedOtherwise(
  stored: StoredValues,
  tested: StoredValues | undefined,
  { kit, settings }: { kit: Kit; settings: Settings },
): string | undefined {
  if (settings.get('store.kept')?.value !== true) return undefined;
  const atMachine = storedAtMachine(kit);
  const others = Object.entries(stored).flatMap(([key, now]) => {
    const [file, then] = [settings.get(key)?.value, tested?.[key]];
    const isKnown =
      atMachine.has(key) ||
      typeof file !== 'number' ||
      alike(now, file) ||
      (then !== undefined && alike(now, then));
    return isKnown ? [] : [{ key, now, file, then }];
  });
  const [first] = others;
  if (!first) return undefined;
  const option = optionOf(kit, first.key);
  const words = (value: number) => settingInWords(option, value);
  const was = first.then === undefined ? '' : `; it stored ${words(first.then)} when it was tested`;
  const more =
    others.length === 1
      ? ''
      : `, and ${others.length - 1} more ${others.length === 2 ? 'is another one' : 'are other ones'}`;
  return `the board stores ${words(first.now)} as “${option?.label ?? first.key}”, the machine file has ${words(first.file)}${was}${more}`;
}
