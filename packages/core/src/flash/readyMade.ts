import { type Facts, partsOf } from '../machine/facts';

/** What the name of a ready-made image may say something of. */
export const ASPECTS = ['board', 'revision', 'drivers', 'probe', 'display'] as const;
export type Aspect = (typeof ASPECTS)[number];
export const ASPECT_WORDS: Readonly<Record<Aspect, string>> = {
  board: 'board',
  revision: 'revision of the board',
  drivers: 'drivers',
  probe: 'bed probe',
  display: 'display',
};

/** What a part of a name says: that it is for this value of an aspect; `undefined` where it says nothing. */
export interface Meaning {
  aspect: Aspect;
  value: string;
}
/** Meanings by part of a name, in small letters. */
export type Meanings = Readonly<Record<string, Meaning | undefined>>;

/** Nothing of this kind is there. */
export const NONE = 'none';

/** What a file is for may be, by aspect: ids with their names. */
export function choicesOf({ catalogue }: Facts): Record<Aspect, { value: string; label: string }[]> {
  const ids = (kind: 'driver' | 'probe' | 'display') =>
    catalogue.parts.filter((part) => part.kind === kind).map(({ id, name }) => ({ value: id, label: name }));
  const unique = (values: string[]) => [...new Set(values)].map((value) => ({ value, label: value }));
  return {
    board: [...new Map(catalogue.boards.map(({ id, name }) => [id, { value: id, label: name }])).values()],
    revision: unique(catalogue.boards.map(({ revision }) => revision)),
    drivers: ids('driver'),
    probe: [{ value: NONE, label: 'no probe' }, ...ids('probe')],
    display: [{ value: NONE, label: 'no display' }, ...ids('display')],
  };
}

/** What this machine has of each aspect. Drivers of more than one kind are no single value: no ready-made image is for them. */
export function ownOf(facts: Facts): Record<Aspect, string | undefined> {
  const { board } = facts;
  const one = (kind: 'driver' | 'probe' | 'display') => {
    const types = [...new Set(partsOf(facts, kind).map(({ part }) => part))];
    return types.length > 1 ? undefined : (types[0] ?? NONE);
  };
  return {
    board: board.id,
    revision: board.revision,
    drivers: one('driver'),
    probe: one('probe'),
    display: one('display'),
  };
}

/** The parts that names of files fall into, each once, in small letters; numbers with points stay whole. */
export function nameParts(names: readonly string[]): string[] {
  const parts = names.flatMap((name) =>
    name
      .replace(/\.[A-Za-z0-9]{1,4}$/, '')
      .toLowerCase()
      .split(/[^a-z0-9.]+/)
      .map((part) => part.replace(/^\.+|\.+$/g, ''))
      .filter((part) => part !== ''),
  );
  return [...new Set(parts)];
}

const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]+/g, '');

/** What a part of a name most likely says, by the names in the catalogue; a guess, for a person to look at. */
export function guessMeaning(part: string, facts: Facts): Meaning | undefined {
  const revision = part.replace(/^(rev|r|v)(?=.)/, '');
  const choices = choicesOf(facts);
  for (const aspect of ASPECTS) {
    const wanted = plain(aspect === 'revision' ? revision : part);
    const found = choices[aspect].find(({ value, label }) =>
      aspect === 'revision'
        ? plain(value) === wanted
        : wanted.length >= 2 &&
          [plain(label), plain(value), ...label.toLowerCase().split(/[^a-z0-9]+/)].includes(wanted),
    );
    if (found) return { aspect, value: found.value };
  }
  if (part === 'noprobe') return { aspect: 'probe', value: NONE };
  return undefined;
}

/** How a ready-made image stands to a machine. */
export interface ReadyMade {
  name: string;
  verdict: 'fits' | 'does not fit' | 'does not say';
  /** What of its name agrees, what not, and what it leaves open. */
  agrees: Aspect[];
  against: { aspect: Aspect; says: string }[];
  open: Aspect[];
}

/** What several files of one make say of themselves, and which of them is for this machine. */
export function judgeReadyMade(
  names: readonly string[],
  meanings: Meanings,
  facts: Facts,
): { files: ReadyMade[]; /** Of which no file is for what this machine has. */ none: Aspect[] } {
  const own = ownOf(facts);
  const said = names.map((name) => nameParts([name]).flatMap((part) => meanings[part] ?? []));
  const spokenOf = ASPECTS.filter((aspect) => said.some((list) => list.some((one) => one.aspect === aspect)));
  const files = names.map((name, index): ReadyMade => {
    const list = said[index] ?? [];
    const against = list.flatMap(({ aspect, value }) => (value === own[aspect] ? [] : [{ aspect, says: value }]));
    const agrees = ASPECTS.filter((aspect) => list.some((one) => one.aspect === aspect && one.value === own[aspect]));
    const open = spokenOf.filter((aspect) => !list.some((one) => one.aspect === aspect));
    const verdict = against.length > 0 ? 'does not fit' : open.length > 0 || spokenOf.length === 0 ? 'does not say' : 'fits';
    return { name, verdict, agrees, against, open };
  });
  const none = spokenOf.filter((aspect) => !said.some((list) => list.some((one) => one.aspect === aspect && one.value === own[aspect])));
  return { files, none };
} // prettier-ignore
