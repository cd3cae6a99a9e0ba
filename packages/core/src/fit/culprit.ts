import { neededBy } from '../checks/needsChecks';
import type { SettingValue } from '../kit/settingValue';
import type { Setting, Settings } from '../settings/setting';

/** Settings as they went into a build. */
export type BuiltSettings = readonly { key: string; value: SettingValue }[];

/** Keys of settings whose values differ from a build's; a setting that the build did not know is none of them. */
export function differingKeys(before: BuiltSettings, now: Settings): string[] {
  const old = new Map(before.map(({ key, value }) => [key, value]));
  return [...now.values()].filter(({ key, value }) => old.has(key) && old.get(key) !== value).map(({ key }) => key); // prettier-ignore
}

/**
 * The settings of a build with only some of what differs now: with each key go those it needs, where they differ too, so that
 * nothing is tried that could never be built.
 */
export function settingsWith(before: BuiltSettings, now: Settings, keys: readonly string[]): Settings {
  const old = new Map(before.map(({ key, value }) => [key, value]));
  const taken = new Set(keys.flatMap((key) => [key, ...neededBy(key)]));
  const mixed = (setting: Setting): Setting => {
    const value = old.get(setting.key);
    return value === undefined || taken.has(setting.key) ? setting : { ...setting, value };
  };
  return new Map([...now].map(([key, setting]) => [key, mixed(setting)]));
}
