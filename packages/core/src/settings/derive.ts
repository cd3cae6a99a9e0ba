import type { Facts } from '../machine/facts';
import { type Derived, derivations } from './derivations';
import type { Setting, Settings } from './setting';

/**
 * Every setting of a machine: its own value where it has one, else what the facts decide, else what the kit
 * says. A machine's own value keeps what it hides, so that it can be shown and reset.
 */
export function derive(facts: Facts): Settings {
  return new Map(
    facts.kit.options.map((option) => [option.key, settingFor(facts, option.key, option.default)]),
  );
}

function settingFor(facts: Facts, key: string, kitDefault: Setting['value']): Setting {
  const derived: Derived | undefined = derivations.get(key)?.(facts);
  const base = derived
    ? { value: derived.value, source: 'derived' as const, because: derived.because }
    : {
        value: kitDefault,
        source: 'kit' as const,
        because: `${facts.kit.name} ${facts.kit.version} says so; nothing on this machine decides it`,
      };
  const own = facts.machine.settings[key];
  return own
    ? { key, value: own.value, source: own.source, because: own.because, hidden: base }
    : { key, ...base };
}
