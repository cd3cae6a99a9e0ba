import type { Facts } from '../machine/facts';
import type { Settings } from './setting';

/** Options that are off when their value is this. */
const OFF: readonly unknown[] = [undefined, false, 0, 'none', 'no', 'pot', 'left-off'];

/** Whether an option's value brings what the option is for. */
export const isOn = (settings: Settings, key: string): boolean => !OFF.includes(settings.get(key)?.value);

const brings = (settings: Settings, key: string, value: string | undefined): boolean =>
  value === undefined ? isOn(settings, key) : settings.get(key)?.value === value;

/** Why this kit at this version, with these settings, does not know a command (`G29`, `map take`); undefined when it does. */
export function notUnderstood({ kit }: Facts, settings: Settings, command: string): string | undefined {
  const which = `${kit.name} ${kit.version}`;
  const known = kit.commands.find(({ say }) => say === command);
  if (!known) return `${which} does not know ${command}.`;
  if (known.from) return `${command} is for ${known.does}; ${which} cannot do that, ${known.from} will.`;
  if (known.by && !brings(settings, known.by, known.value))
    return `${command} is for ${known.does}, which is off on this machine (${known.by}).`;
  return undefined;
}
