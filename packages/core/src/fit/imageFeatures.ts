import { type Kit, readNow } from '../kit/kit';
import type { SettingValue } from '../kit/settingValue';
import { settingOf, type Settings } from '../settings/setting';

/** Something an image can do and can do without: what the kit gives a worth. */
export interface ImageFeature {
  key: string;
  label: string;
  /** What is lost without it, in use. */
  without: string;
  /** What it is worth to most users, 0 to 9. */
  worth: number;
  /** Whether the image has it as the machine is set now. */
  on: boolean;
  /** Its value when it is left out; where it is off, the value that brings it. */
  other: SettingValue;
}

/** The features of this kit: those that are on and can be left out, and flags that are off and can be switched on. */
export function imageFeatures({ kit, settings }: { kit: Kit; settings: Settings }): ImageFeature[] {
  return readNow(kit).flatMap((option): ImageFeature[] => {
    const { key, label, without, worth } = option;
    if (worth === undefined || without === undefined) return [];
    const less = option.less ?? false;
    const on = settingOf(settings, key).value !== less;
    // Which of its choices a feature that is off would be given is not known.
    if (!on && option.kind !== 'flag') return [];
    return [{ key, label, without, worth, on, other: on ? less : true }];
  });
}
