import type { Board, Header, Socket } from './board';
import { numberedOn } from './contactWords';
import { contactAt, overlap, plugRoom } from './plugRoom';

/** A value of which anything may be missing still. */
export type Loose<T> = T extends string | number | boolean
  ? T
  : T extends readonly (infer U)[]
    ? Loose<U>[]
    : { [K in keyof T]?: Loose<T[K]> | undefined };

/** A board while it is described: as its file, with what nobody has said yet missing. Headers stand whole. */
export type BoardDraft = Omit<Loose<Board>, 'headers'> & { headers: Header[] };

export const NEW_BOARD: BoardDraft = {
  jolly: 'board/1', headers: [], sockets: [], holes_mm: [], inputs: [], tells: [], routes: [],
}; // prettier-ignore

/** Where a thing without a place of its own is put to begin with: the middle of the board. */
const MIDDLE = { x: 50, y: 40 };
const LONGEST_ID = 20;

/** The next name after one: the number behind it counts on, an axis goes on from X to Y to Z, and what has neither gets a number. */
export function nextId(id: string, taken: ReadonlySet<string>): string {
  const axis = /^(.*?)([XY])$/.exec(id);
  const after = axis && `${axis[1] ?? ''}${axis[2] === 'X' ? 'Y' : 'Z'}`;
  if (after && !taken.has(after)) return after;
  const [, stem = id, digits] = /^(.*?)(\d+)$/.exec(id) ?? [];
  for (let number = digits === undefined ? 2 : Number(digits) + 1; ; number += 1) {
    const next = `${stem}${digits === undefined ? '-' : ''}${number}`.slice(-LONGEST_ID);
    if (!taken.has(next)) return next;
  }
}

const idsOf = ({ headers }: BoardDraft): Set<string> => new Set(headers.map(({ id }) => id));

/** A header to begin with: of the family and the pitch of the last one, at a place, its contacts not known. */
export function freshHeader(draft: BoardDraft, at_mm = draft.outline_mm ? middleOf(draft) : MIDDLE): Header {
  const last = draft.headers.at(-1);
  return {
    id: nextId('H0', idsOf(draft)),
    at_mm,
    runs: last?.runs ?? 'right',
    family: last?.family ?? '',
    pitch_mm: last?.pitch_mm ?? 2.54,
    contacts: ['?', '?'],
  };
}

function middleOf({ outline_mm: outline }: BoardDraft): { x: number; y: number } {
  return { x: tenth((outline?.x ?? MIDDLE.x * 2) / 2), y: tenth((outline?.y ?? MIDDLE.y * 2) / 2) };
}

/** A header once more: the next name, its pins numbered on, in the nearest free room beside it. */
export function copyOf(draft: BoardDraft, header: Header): Header {
  const copy = { ...header, id: nextId(header.id, idsOf(draft)), contacts: numberedOn(header.contacts) };
  return { ...copy, at_mm: roomBeside(draft, header) };
}

/** The nearest room for one more of a header: across its row, in front first, then behind; else where it is, moved a little. */
function roomBeside(draft: BoardDraft, header: Header): { x: number; y: number } {
  const taken = draft.headers.map((row) => plugRoom(row));
  const step = header.pitch_mm + 1;
  for (let times = 1; times <= 60; times += 1)
    for (const way of [-1, 1]) {
      const by = way * step * times;
      const at_mm =
        header.runs === 'up'
          ? { x: tenth(header.at_mm.x + by), y: header.at_mm.y }
          : { x: header.at_mm.x, y: tenth(header.at_mm.y + by) };
      const row = { ...header, at_mm };
      if (within(draft, row) && !taken.some((room) => overlap(room, plugRoom(row)))) return at_mm;
    }
  return { x: header.at_mm.x + 1, y: header.at_mm.y + 1 };
}

const tenth = (value: number): number => Math.round(value * 10) / 10;

function within({ outline_mm: outline }: BoardDraft, row: Header): boolean {
  const ends = [contactAt(row, 1), contactAt(row, row.contacts.length)];
  return ends.every(({ x, y }) => x >= 0 && y >= 0 && (outline?.x === undefined || x <= outline.x) && (outline?.y === undefined || y <= outline.y)); // prettier-ignore
}

/** What a drawing of a board needs to know of it; what has no place yet is not drawn. */
export type BoardLooks = Pick<Board, 'id' | 'outline_mm' | 'holes_mm' | 'headers' | 'jumpers'> & {
  chip_at_mm?: { x: number; y: number } | undefined;
  sockets: Pick<Socket, 'id' | 'at_mm' | 'motor'>[];
};

type Place = { x: number; y: number };
const isPlace = (at: Loose<Place> | undefined): at is Place => at?.x !== undefined && at.y !== undefined;

/** The board as far as it can be drawn. A size that nobody has given yet is the one of its things, and a margin. */
export function looksOf(draft: BoardDraft): BoardLooks {
  const chip = draft.chip_at_mm;
  return {
    id: draft.id ?? 'new',
    outline_mm: isPlace(draft.outline_mm) ? draft.outline_mm : { x: MIDDLE.x * 2, y: MIDDLE.y * 2 },
    holes_mm: (draft.holes_mm ?? []).filter(isPlace),
    headers: draft.headers,
    ...(isPlace(chip) && { chip_at_mm: chip }),
    sockets: (draft.sockets ?? []).flatMap(({ id, at_mm, motor }) => {
      if (id === undefined || !isPlace(at_mm)) return [];
      const whole = isPlace(motor?.at_mm) && motor.order?.length === 4 && motor.pitch_mm !== undefined;
      // Whole, by the line above.
      return [{ id, at_mm, ...(whole && { motor: motor as NonNullable<Socket['motor']> }) }];
    }),
    jumpers: (draft.jumpers ?? []).filter((jumper): jumper is NonNullable<Board['jumpers']>[number] =>
      isPlace(jumper.at_mm),
    ),
  };
}
