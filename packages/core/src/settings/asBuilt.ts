import type { Kit } from '../kit/kit';
import type { SettingValue } from '../kit/settingValue';
import { storedSettings } from '../kit/storedSettings';
import { alike } from './alike';
import type { Setting, Settings } from './setting';

/** The settings an image was built with, by key. */
export type BuiltWith = Readonly<Record<string, SettingValue>>;

/** Settings that an image has otherwise than the machine file has them now. */
export interface BuiltOtherwise {
  setting: Setting;
  built: SettingValue;
}

const same = (one: SettingValue, other: SettingValue): boolean =>
  typeof one === 'number' && typeof other === 'number' ? alike(one, other) : one === other;

/**
 * What the image was built with and the machine file has otherwise. Stored settings are not among them: the board takes
 * those without another image, and says itself what it keeps.
 */
export function builtOtherwise(kit: Kit, settings: Settings, builtWith: BuiltWith): BuiltOtherwise[] {
  const stored = new Set(storedSettings(kit).map(({ option }) => option.key));
  return [...settings.values()].flatMap((setting) => {
    const built = builtWith[setting.key];
    if (built === undefined || stored.has(setting.key) || same(built, setting.value)) return [];
    return [{ setting, built }];
  });
}

/** The settings of a machine as the image that runs has them: what is measured at it goes by that image, not by the file. */
export function asBuilt(kit: Kit, settings: Settings, builtWith: BuiltWith): Settings {
  const image = new Map(settings);
  for (const { setting, built } of builtOtherwise(kit, settings, builtWith))
    image.set(setting.key, { ...setting, value: built, because: 'as the image that runs was built' });
  return image;
}
