import { textSum } from '../bytes/textSum';
import type { Board } from '../board/board';
import { canonicalJson } from '../tree/canonicalJson';
import { oncePer } from '../tree/oncePer';
import type { Facts, PlacedPart } from './facts';
import { atomsInWords, factAtoms, factInWords, type FactKey, factsOfPart, otherThan } from './touched';

/** What a fact was when something was found out about it: as it is told, and a sum over all that is known of it. */
export interface Ground {
  words: string;
  sum: string;
}
/** By fact. Under a pattern (`driver.*`) stand the facts it covered then. */
export type Grounds = Readonly<Record<FactKey, Ground>>;

const NONE: Ground = { words: 'none', sum: '' };

/** The facts something rests on as they are now, to be kept with what was found. Image and store are kept apart. */
export function groundsOf(facts: Facts, restsOn: readonly FactKey[]): Grounds {
  const known = allGrounds(facts);
  const keys = restsOn
    .filter((key) => key !== 'image' && key !== 'stored')
    .flatMap((key) => (key.endsWith('*') ? [...covered(known, key), key] : [key]));
  return Object.fromEntries(keys.map((key) => [key, groundOf(known, key)]));
}

/**
 * Why what was found does not hold any more, as a clause: the first fact it rests on that is another one now. Undefined while
 * all are as they were. Without a record of them nobody knows, and it does not hold.
 */
export function voidBecause(
  was: Grounds | undefined,
  facts: Facts,
  when: 'tested' | 'noted' | 'measured' = 'tested',
): string | undefined {
  if (!was) return `what it rests on was not written down when it was ${when}`;
  const known = allGrounds(facts);
  for (const [key, ground] of Object.entries(was)) {
    const now = groundOf(known, key);
    if (now.sum === ground.sum) continue;
    if (!key.endsWith('*')) return otherThan(key, ground.words, now.words, when);
    // Of what a pattern covers no more its own key tells.
    const added = covered(known, key).find((each) => !Object.hasOwn(was, each));
    if (added) return `${factInWords(added)} was not there when it was ${when}`;
  }
  return undefined;
}

const groundOf = (known: ReadonlyMap<FactKey, Ground>, key: FactKey): Ground => {
  if (!key.endsWith('*')) return known.get(key) ?? NONE;
  const keys = covered(known, key).join(' ');
  return { words: keys, sum: keys };
};

const covered = (known: ReadonlyMap<FactKey, Ground>, pattern: FactKey): FactKey[] =>
  pattern.endsWith('*') ? [...known.keys()].filter((key) => key.startsWith(pattern.slice(0, -1))) : [];

/** Every fact with all that is known of it: a part described anew is another one, and so is one in another place. */
const allGrounds = oncePer((facts: Facts): ReadonlyMap<FactKey, Ground> => {
  const beside = new Map<FactKey, unknown[]>([['board', [boardBeside(facts)]]]);
  const add = (key: FactKey, what: unknown) => beside.set(key, [...(beside.get(key) ?? []), what]);
  for (const part of facts.parts) {
    const [own, wiring] = factsOfPart(facts, part);
    add(own, described(part));
    if (part.landing) add(wiring, part.landing);
  }
  return new Map(
    [...factAtoms(facts)].map(([key, atoms]): [FactKey, Ground] => [
      key,
      { words: atomsInWords(atoms), sum: textSum(canonicalJson([atoms, beside.get(key)])) },
    ]),
  );
});

/** A part without what it is called; of a module also where it sits, which nothing else tells. */
function described({ type: { name: _name, ...type }, cooling, landing }: PlacedPart): unknown {
  return { ...type, cooling, ...(landing && 'socket' in landing && type.kind === 'driver' && { landing }) };
}

/** What is connected to what on a board, as this machine has it; where it is drawn does not matter. */
function boardBeside({ board, chip, machine: { jumpers, pins } }: Facts): unknown {
  const { input_v, headers, sockets, inputs, host_serial, rails }: Board = board;
  const plain = headers.map(({ id, contacts, max_a }) => ({ id, contacts, max_a }));
  const steered = sockets.map(({ at_mm: _at, motor, ...socket }) => ({ ...socket, order: motor?.order }));
  const set = (board.jumpers ?? []).map(({ id, positions }) => ({ id, positions }));
  return { chip, input_v, plain, steered, inputs, host_serial, rails, set, jumpers, pins };
}
