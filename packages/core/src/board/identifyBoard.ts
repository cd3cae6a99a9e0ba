import { isFilled } from '../tree/filled';
import type { Filled } from '../tree/filled';
import type { Board } from './board';
import type { Chip } from './chip';
import { markText, misread } from './markText';

/** What somebody sees on the board in front of them. Everything may be missing. */
export interface Seen {
  /** What is printed on the board; `?` for a letter that cannot be read. */
  print?: string;
  /** What is printed on the biggest chip. */
  chip?: string;
  sockets?: number;
  /** Screw terminals for heaters and the like. */
  terminals?: number;
  drivers?: Board['drivers'];
  /** Family of the display plug, or `none`. */
  display?: string;
  /** Answers about single small parts, by `BOARD/TELL`. */
  tells?: Record<string, string>;
}

export interface Candidate {
  board: Board;
  /** Share of belief, 0–1; all candidates and `none` together are 1. */
  share: number;
  for: string[];
  against: string[];
}

/** The one thing to look at that splits the remaining candidates best. */
export interface NextLook {
  feature: string;
  /** What to look for, in words. */
  look: string;
  /** Where it is on each board that is still likely. */
  places: { board: Board; at_mm: { x: number; y: number } }[];
  /** What may be seen, with the boards it would leave. */
  answers: { value: string; boards: Board[] }[];
  /** How much of the doubt it takes away on average, in bits. */
  bits: number;
}

export interface Identification {
  ranked: Candidate[];
  /** Share of belief that it is none of them; 0 while nothing was seen. */
  none: number;
  next?: NextLook;
  /** Set when one board is all but certain, and nothing that was seen speaks against it. */
  decided?: Board;
}

/** What is known of a board for comparing; made once, so that each key press only compares. */
interface Prepared {
  board: Board;
  chip: Chip | undefined;
  print: string;
  chipMark: string;
}

/** A wrong letter makes a board this many times less likely; a wrong count or kind likewise. */
const PER_LETTER = 12;
const PER_FACT = 25;
const CERTAIN = 0.9;
/** A board that nobody described would show anything: it is as likely as a known one with between one and two wrong letters. */
const NONE = 1 / 60;
/** Boards below this share of the best one are out of the running. */
const HOPELESS = 0.02;

interface Feature {
  id: string;
  look: string;
  of: (prepared: Prepared) => string;
  seen: (seen: Seen) => string | undefined;
  at: (board: Board) => { x: number; y: number };
  words: (value: string) => string;
}

/** Everything that can be counted or looked at, easiest first: of equal looks the earlier one is asked for. */
const FEATURES: readonly Feature[] = [
  {
    id: 'sockets',
    look: 'Count the places for driver modules (or the soldered drivers).',
    of: ({ board }) => String(board.sockets.length),
    seen: ({ sockets }) => (sockets === undefined ? undefined : String(sockets)),
    at: (board) => board.sockets[0]?.at_mm ?? board.chip_at_mm,
    words: (value) => `${value} driver places`,
  },
  {
    id: 'drivers',
    look: 'Are the drivers plugged in, or soldered to the board?',
    of: ({ board }) => board.drivers,
    seen: ({ drivers }) => drivers,
    at: (board) => board.sockets[0]?.at_mm ?? board.chip_at_mm,
    words: (value) => `drivers ${value}`,
  },
  {
    id: 'terminals',
    look: 'Count the screw terminals for heaters.',
    of: ({ board }) => String(terminals(board).length),
    seen: (seen) => (seen.terminals === undefined ? undefined : String(seen.terminals)),
    at: (board) => terminals(board)[0]?.at_mm ?? board.chip_at_mm,
    words: (value) => `${value} screw terminals`,
  },
  {
    id: 'display',
    look: 'Which plug is there for a display?',
    of: ({ board }) => displayPlug(board),
    seen: ({ display }) => display,
    at: (board) => board.headers.find((header) => header.for === 'display')?.at_mm ?? board.chip_at_mm,
    words: (value) => (value === 'none' ? 'no display plug' : `display plug ${value}`),
  },
  {
    id: 'chip',
    look: 'Read the marking on the biggest chip. Tilt the board under the lamp.',
    of: ({ chipMark }) => chipMark,
    seen: ({ chip }) => (chip?.trim() ? markText(chip) : undefined),
    at: (board) => board.chip_at_mm,
    words: (value) => `chip marked ${value}`,
  },
  {
    id: 'print',
    look: 'Read the name and revision printed on the board.',
    of: ({ print }) => print,
    seen: ({ print }) => (print?.trim() ? markText(print) : undefined),
    at: (board) => board.print_at_mm,
    words: (value) => `print ${value}`,
  },
];
const READ = new Set(['chip', 'print']);

const terminals = (board: Board) => board.headers.filter((header) => header.family.startsWith('screw'));
/** Family of a board's display plug, or `none`. */
export const displayPlug = (board: Board) =>
  board.headers.find((header) => header.for === 'display')?.family ?? 'none';
/** Number of screw terminals on a board. */
export const terminalCount = (board: Board) => terminals(board).length;

export function prepareBoards(boards: readonly Board[], chips: readonly Chip[]): Prepared[] {
  return boards.map((board) => {
    const chip = chips.find((entry) => entry.id === board.chip);
    return { board, chip, print: markText(board.print.join(' ')), chipMark: markText(chip?.marking ?? '') };
  });
}

/**
 * Ranks boards by how well they fit what is seen, with the reasons, and names the one next thing to look at that is
 * expected to take most of the doubt away (the mutual information between its answer and the board). Letters that
 * look alike on a worn print count as the same.
 */
export function identifyBoard(seen: Seen, prepared: readonly Prepared[]): Identification {
  const scored = prepared.map((entry) => score(entry, seen)).sort((a, b) => b.weight - a.weight);
  const none = anythingSeen(seen) ? NONE : 0;
  const total = scored.reduce((sum, entry) => sum + entry.weight, none);
  const best = scored[0]?.weight ?? 0;
  const live = scored.filter((entry) => entry.weight >= best * HOPELESS);
  const ranked = scored.map(({ prepared: { board }, weight, ...reasons }) => ({
    board,
    share: total > 0 ? weight / total : 0,
    ...reasons,
  }));
  const [first] = ranked;
  const isCertain = first && first.share >= CERTAIN && first.against.length === 0 && none > 0;
  const decided = isCertain ? first.board : undefined;
  const next = live.length > 1 ? bestLook(live, seen) : undefined;
  return {
    ranked,
    none: total > 0 ? none / total : 0,
    ...(next && !decided && { next }),
    ...(decided && { decided }),
  };
}

const anythingSeen = (seen: Seen) =>
  FEATURES.some((feature) => feature.seen(seen) !== undefined) || Object.keys(seen.tells ?? {}).length > 0;

interface Scored {
  prepared: Prepared;
  weight: number;
  for: string[];
  against: string[];
}

function score(prepared: Prepared, seen: Seen): Scored {
  const reasons: Pick<Scored, 'for' | 'against'> = { for: [], against: [] };
  let weight = 1;
  for (const feature of FEATURES) {
    const value = feature.seen(seen);
    if (value === undefined || value === '') continue;
    const here = feature.of(prepared);
    const off = READ.has(feature.id) ? misread(value, here) : value === here ? 0 : 1;
    weight /= (READ.has(feature.id) ? PER_LETTER : PER_FACT) ** off;
    reasons[off < 1 ? 'for' : 'against'].push(reason(feature, prepared, seen, off));
  }
  for (const tell of prepared.board.tells) {
    const answer = seen.tells?.[`${prepared.board.id}/${tell.id}`];
    if (answer === undefined) continue;
    const fits = answer === tell.says;
    if (!fits) weight /= PER_FACT;
    reasons[fits ? 'for' : 'against'].push(`${tell.look}: ${tell.says} on this one`);
  }
  return { prepared, weight, ...reasons };
}

function reason(feature: Feature, { board, chip }: Prepared, seen: Seen, off: number): string {
  const letters = (count: number) =>
    `${Math.round(count)} ${Math.round(count) === 1 ? 'letter' : 'letters'} off`;
  if (feature.id === 'print')
    return off < 1
      ? `its print “${board.print.join(' ')}” can be read so`
      : `its print is “${board.print.join(' ')}”, ${letters(off)}`;
  if (feature.id === 'chip')
    return off < 1
      ? `its chip is marked ${chip?.marking}`
      : `its chip is marked ${chip?.marking}, ${letters(off)}`;
  const here = feature.of({ board, chip, print: '', chipMark: '' });
  return off < 1
    ? `it has ${feature.words(here)}`
    : `it has ${feature.words(here)}, not ${feature.seen(seen)}`;
}

/** The unseen feature with the highest mutual information over the live candidates. */
function bestLook(live: readonly Scored[], seen: Seen): NextLook | undefined {
  const total = live.reduce((sum, entry) => sum + entry.weight, 0);
  let best: NextLook | undefined;
  const offer = (look: NextLook) => {
    if (look.bits > (best?.bits ?? 0) + 1e-9) best = look;
  };
  for (const feature of FEATURES) {
    if (feature.seen(seen)) continue;
    const groups = group(live, ({ prepared }) => feature.of(prepared));
    offer({
      feature: feature.id,
      look: feature.look,
      places: placesOf(live, feature.at),
      answers: answersOf(groups, (value, [{ prepared }]) => answerWords(feature, value, prepared)),
      bits: entropy(groups, total),
    });
  }
  for (const id of new Set(
    live.flatMap(({ prepared: { board } }) => board.tells.map((tell) => `${board.id}/${tell.id}`)),
  )) {
    if (seen.tells?.[id] !== undefined) continue;
    const [boardId, tellId] = id.split('/');
    // Only boards that have the place can be told apart by it.
    const having = live.flatMap((entry) => {
      const { board } = entry.prepared;
      const tell = board.id === boardId ? board.tells.find((one) => one.id === tellId) : undefined;
      return tell ? [{ ...entry, tell }] : [];
    });
    if (!isFilled(having)) continue;
    const groups = group(having, ({ tell }) => tell.says);
    const mass = having.reduce((sum, entry) => sum + entry.weight, 0);
    offer({
      feature: id,
      look: `Look for ${having[0].tell.look}.`,
      places: having.slice(0, SHOWN).map(({ prepared: { board }, tell }) => ({ board, at_mm: tell.at_mm })),
      answers: answersOf(groups, (value) => value),
      bits: (mass / total) * entropy(groups, mass),
    });
  }
  return best;
}

/** Print and chip are shown as they stand on the part, not as they are compared. */
function answerWords(feature: Feature, value: string, { board, chip }: Prepared): string {
  if (feature.id === 'chip') return chip?.marking ?? '';
  return feature.id === 'print' ? board.print.join(' ') : value;
}

function group<S extends Scored>(live: readonly S[], value: (entry: S) => string): Map<string, Filled<S>> {
  const groups = new Map<string, Filled<S>>();
  for (const entry of live) {
    const known = groups.get(value(entry));
    if (known) known.push(entry);
    else groups.set(value(entry), [entry]);
  }
  return groups;
}

/** Shannon entropy of the answer in bits: −Σ p·log₂ p. */
function entropy(groups: ReadonlyMap<string, Scored[]>, total: number): number {
  let bits = 0;
  for (const entries of groups.values()) {
    const share = entries.reduce((sum, entry) => sum + entry.weight, 0) / total;
    if (share > 0) bits -= share * Math.log2(share);
  }
  return bits;
}

const SHOWN = 8;
const placesOf = (live: readonly Scored[], at: Feature['at']) =>
  live.slice(0, SHOWN).map(({ prepared: { board } }) => ({ board, at_mm: at(board) }));
const answersOf = (
  groups: ReadonlyMap<string, Filled<Scored>>,
  words: (value: string, entries: Filled<Scored>) => string,
) =>
  [...groups].map(([value, entries]) => ({
    value: words(value, entries),
    boards: entries.map(({ prepared }) => prepared.board),
  }));
