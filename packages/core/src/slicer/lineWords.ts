import type { Facts } from '../machine/facts';
import type { Kit, KitCommand } from '../kit/kit';
import { optionOf } from '../kit/optionOf';
import type { Settings } from '../settings/setting';
import { isOn, notUnderstood } from '../settings/understands';
import type { GcodeLine } from './gcodeLine';

/** The letters that a command takes, and how far their numbers may go. */
interface Taken {
  takes: string;
  alone: string;
  needs: string;
  ranges: Readonly<Record<string, readonly [number, number]>>;
}

/**
 * Why this version of the kit, with these settings, would refuse a line for its words: it cannot be read, the command is
 * not known, or it is given what it does not take, or not given what it needs.
 */
export function unfitWords(entry: GcodeLine, facts: Facts, settings: Settings): string | undefined {
  const { command, unreadable } = entry;
  if (unreadable) return `The board cannot read it: ${unreadable}.`;
  if (command === undefined) return undefined;
  return notUnderstood(facts, settings, command) ?? misfit(entry, takenBy(facts.kit, settings, command));
}

/** What a command takes; undefined where the kit file does not say. */
function takenBy(kit: Kit, settings: Settings, command: string): Taken | undefined {
  const known = kit.commands.find(({ say }) => say === command);
  const stored = kit.stored.find(({ say }) => say === command);
  if (stored) return { takes: Object.keys(stored.words).join(''), alone: '', needs: '', ranges: rangesOf(kit, stored.words) };
  return known?.takes === undefined ? undefined : taken(known, known.takes, settings);
} // prettier-ignore

function taken({ takes_with, alone = '', needs = '', ranges = {} }: KitCommand, takes: string, settings: Settings): Taken {
  const more = Object.entries(takes_with ?? {}).flatMap(([key, letters]) => (isOn(settings, key) ? [letters] : []));
  return { takes: [takes, ...more].join(''), alone, needs, ranges };
} // prettier-ignore

/** What is stored is taken as far as its option goes. */
function rangesOf(kit: Kit, words: Readonly<Record<string, string>>): Taken['ranges'] {
  return Object.fromEntries(
    Object.entries(words).flatMap(([letter, key]) => {
      const option = optionOf(kit, key);
      return option?.kind === 'number' ? [[letter, option.range]] : [];
    }),
  );
}

function misfit({ text, command = '', words }: GcodeLine, taken: Taken | undefined): string | undefined {
  if (!taken) return undefined;
  const { takes, alone, needs, ranges } = taken;
  // What is said in words has small letters.
  const shown = (letter: string) => (/^[a-z]/.test(command) ? letter.toLowerCase() : letter);
  for (const [letter, value] of words) {
    const name = shown(letter);
    if (!takes.includes(letter) && !alone.includes(letter)) return `${command} takes no ${name}.`;
    // What a slicer fills in is not known here.
    if (Number.isNaN(value) && /[{[<]/.test(text)) continue;
    if (Number.isNaN(value) && !alone.includes(letter)) return `${command} needs a number behind ${name}.`;
    if (!Number.isNaN(value) && !takes.includes(letter)) return `${name} stands alone behind ${command}, without a number.`;
    const range = ranges[letter];
    if (range && (value < range[0] || value > range[1])) return `${name} is ${value}; ${command} takes ${range[0]} to ${range[1]}.`;
  }
  const missing = [...needs].find((letter) => !words.has(letter));
  return missing && `${command} needs ${shown(missing)} with a number.`;
} // prettier-ignore
