import { heldNumber, type Kit } from '../kit/kit';
import type { Settings } from '../settings/setting';

/** What the settings promise that the image must hold. */
export interface PromisedGuards {
  linked: readonly string[];
  /** In the order the image numbers them. */
  told: readonly { key: string; value: number }[];
}

/** A promise the image does not keep. */
export interface GuardLoss {
  /** The setting that says otherwise; missing where a function is not in the image at all. */
  key?: string;
  message: string;
}

/** The guards a machine's settings promise. */
export function promisedGuards({ guards, options }: Kit, settings: Settings): PromisedGuards {
  /** A guard that is off has no windows: the image tells 0 for them. */
  const ofNoGuard = (key: string) => {
    const guard = /^(guard\.[\w-]+)\./.exec(key)?.[1];
    return guard !== undefined && settings.get(guard)?.value === false;
  };
  const isRead = (key: string) => {
    const by = options.find((entry) => entry.key === key)?.by;
    return by === undefined || settings.get(by)?.value === true;
  };
  const told = guards.told.filter(isRead).map((key) => {
    const option = options.find((entry) => entry.key === key);
    const value = heldNumber(option, Number(settings.get(key)?.value));
    return { key, value: ofNoGuard(key) ? 0 : value };
  });
  const linked = guards.linked.flatMap((entry) =>
    typeof entry === 'string'
      ? [entry]
      : entry.by.some((key) => isRead(key) && settings.get(key)?.value === true)
        ? [entry.name]
        : [],
  );
  return { linked, told };
}

const LINKED = /\.o:\((?:\.text\.)?([A-Za-z_]\w*)\)\s*$/;
/** Function names in a linker's map whose code takes room. */
function linkedFunctions(map: string): Set<string> {
  return new Set(map.split('\n').flatMap((line) => LINKED.exec(line)?.[1] ?? []));
}

/**
 * What the settings promise and the linked image does not hold: functions missing from the linker's map, and values
 * the image told (`NaN` where it told none) that are not those of the settings, in single precision.
 */
export function guardLosses(promised: PromisedGuards, map: string, told: readonly number[]): GuardLoss[] {
  const linked = linkedFunctions(map);
  return [
    ...promised.linked
      .filter((name) => !linked.has(name))
      .map((name) => ({ message: `${name} is not in the image: nothing would guard the heaters` })),
    ...promised.told.flatMap(({ key, value }, index) => {
      const held = told[index] ?? NaN;
      return Object.is(held, Math.fround(value))
        ? []
        : [{ key, message: `the settings say ${key} = ${value}; the image ${wordsFor(held)}` }];
    }),
  ];
}

const wordsFor = (held: number) => (Number.isNaN(held) ? 'tells none' : `has ${held}`);
