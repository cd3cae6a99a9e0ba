import type { SettingValue } from '../kit/settingValue';
import { resetEdit } from '../machine/edit';
import type { Settings } from '../settings/setting';
import type { Remedy } from './finding';

/** The subject of a finding about a setting. */
export const aboutSetting = (id: string) => ({ kind: 'setting' as const, id });

/** A setting's value as it is said. */
export const inWords = (value: SettingValue | undefined): string =>
  value === true ? 'on' : value === false ? 'off' : String(value);

/** A setting with its value, as evidence. */
export function asSet(settings: Settings, key: string, unit = ''): string {
  return `${key}: ${inWords(settings.get(key)?.value)}${unit && ` ${unit}`}`;
}

/** Letting the facts, or the kit, decide again; offered only when the machine's own value is what is wrong. */
export function resetRemedy(settings: Settings, key: string): Remedy[] {
  const hidden = settings.get(key)?.hidden;
  if (!hidden) return [];
  const who = hidden.source === 'kit' ? 'kit' : 'facts';
  return [{ label: `Let the ${who} decide: ${inWords(hidden.value)}`, edits: [resetEdit(key)] }];
}
