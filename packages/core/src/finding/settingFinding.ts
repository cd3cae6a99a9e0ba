import { resetEdit } from '../machine/edit';
import type { Settings } from '../settings/setting';
import type { Remedy } from './finding';

/** The subject of a finding about a setting. */
export const aboutSetting = (id: string) => ({ kind: 'setting' as const, id });

/** A setting with its value, as evidence. */
export function asSet(settings: Settings, key: string, unit = ''): string {
  const value = settings.get(key)?.value;
  const word = value === true ? 'on' : value === false ? 'off' : String(value);
  return `${key}: ${word}${unit && ` ${unit}`}`;
}

/** Letting the facts decide again; offered only when the machine's own value is what is wrong. */
export function resetRemedy(settings: Settings, key: string): Remedy[] {
  const hidden = settings.get(key)?.hidden;
  return hidden ? [{ label: `Let the facts decide: ${String(hidden.value)}`, edits: [resetEdit(key)] }] : [];
}
