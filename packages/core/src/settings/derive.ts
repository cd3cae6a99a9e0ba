import type { Facts } from '../machine/facts';
import type { Derived } from './derivation';
import { derivations } from './derivations';
import type { Setting, Settings } from './setting';

/**
 * Every setting of a machine: its own value where it has one, else what the facts decide, else what the kit
 * says. A machine's own value keeps what it hides, so that it can be shown and reset.
 */
export function derive(facts: Facts): Settings {
  const kitBecause = `${facts.kit.name} ${facts.kit.version} says so; nothing known of this machine decides it`;
  const settings = new Map<string, Setting>();
  for (const option of facts.kit.options)
    settings.set(option.key, settingFor(facts, option.key, option.default, kitBecause));
  return settings;
}

function settingFor(facts: Facts, key: string, kitDefault: Setting['value'], kitBecause: string): Setting {
  const derived: Derived | undefined = derivations.get(key)?.(facts);
  const source = derived ? ('derived' as const) : ('kit' as const);
  const { value, because } = derived ?? { value: kitDefault, because: kitBecause };
  const own = facts.machine.settings[key];
  return own
    ? {
        key,
        value: own.value,
        source: own.source,
        because: own.because,
        kit: kitDefault,
        hidden: { value, source, because },
      }
    : { key, value, source, because, kit: kitDefault };
}
