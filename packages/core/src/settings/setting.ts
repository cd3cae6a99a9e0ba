import type { SettingValue } from '../kit/settingValue';

export type Source = 'derived' | 'kit' | 'carried' | 'override';

/** An option's value on a machine, where it came from and why. */
export interface Setting {
  key: string;
  value: SettingValue;
  source: Source;
  because: string;
  /** What the kit says when nothing on the machine decides it. */
  kit: SettingValue;
  /** What the facts or the kit say, when the machine's own value hides it. */
  hidden?: { value: SettingValue; source: 'derived' | 'kit'; because: string };
}

export type Settings = ReadonlyMap<string, Setting>;

/** A number setting's value. @throws when the kit has no such number option: a mistake in our own tables */
/** @throws {Error} when the kit of these settings has no such option */
export function settingOf(settings: Settings, key: string): Setting {
  const setting = settings.get(key);
  if (!setting) throw new Error(`there is no setting ${key}`);
  return setting;
}

export function numberOf(settings: Settings, key: string): number {
  const value = settings.get(key)?.value;
  if (typeof value !== 'number') throw new Error(`setting ${key} is not a number`);
  return value;
}

/** The `[min, max]` pair of settings `<stem>.min` and `<stem>.max`. */
export function spanOf(settings: Settings, stem: string): [number, number] {
  return [numberOf(settings, `${stem}.min`), numberOf(settings, `${stem}.max`)];
}
