import { writeYaml } from './writeYaml';
import { type Board, boardKeys, boardSchema } from '../board/board';
import { type Chip, pinGroup } from '../board/chip';
import type { BoardDraft } from '../board/boardDraft';
import { parseNet } from '../board/net';
import { isCardRoute, isWired, type Wire, WIRES_OF } from '../board/route';
import { contactAt, contactRows, overlap, plugRoom } from '../board/plugRoom';
import type { Catalogue } from '../catalogue/catalogue';
import { line } from '../text/plainText';
import { PAYLOAD } from '../bytes/uf2';
import { sameValue } from '../tree/sameValue';
import { type Misfit, type Read, readYaml } from './readYaml';
import { once } from '../tree/once';

/**
 * Reads a board file and checks it against the chips of the catalogue and against itself. A further revision of a known
 * board may be written as `like: REVISION` and only what differs.
 */
export function readBoardFile(
  text: string,
  { chips, boards }: Pick<Catalogue, 'chips' | 'boards'>,
): Read<Board> {
  return readBoard(text, boards, (board) => boardProblems(board, chips));
}

const SAYS_LIKE = /^like:/m;
/** Reads a board, whole or by what differs from a revision of it among the boards. */
export function readBoard(
  text: string,
  boards: readonly Board[],
  holds: (board: Board) => Misfit[] = () => [],
): Read<Board> {
  if (!SAYS_LIKE.test(text)) return readYaml<Board>(text, boardSchema(), holds);
  const read = readYaml<Partial<Board> & { like: string }>(text, likeSchema());
  if ('problems' in read) return read;
  const { like, ...differs } = read.value;
  const line = text.split('\n').findIndex((row) => SAYS_LIKE.test(row)) + 1;
  const refuse = (message: string): Read<Board> => ({
    problems: [{ line, column: 1, path: 'like', message }],
  });
  const sister = boards.find((board) => board.id === differs.id && board.revision === like);
  if (!sister) return refuse(`"like": there is no ${differs.id} revision ${like} before it`);
  const whole: unknown = { ...sister, ...differs };
  const { error } = boardSchema().validate(whole, { convert: false });
  if (error) return refuse(error.message);
  // Checked in the line above.
  const board = whole as Board;
  const [misfit] = holds(board);
  return misfit ? refuse(`${misfit.path}: ${misfit.message}`) : { value: board };
}

/** A board that gives only what differs from another revision of it. */
export const likeSchema = once(() =>
  boardSchema()
    .fork(
      boardKeys().filter((key) => !['jolly', 'id', 'revision'].includes(key)),
      (schema) => schema.optional(),
    )
    .append({ like: line(12).required() }),
);

const LINE_WIDTH = 130;

/** Writes a board file; reading it back gives the same board. What a draft does not say yet is left out. */
export function writeBoardFile(board: Board | BoardDraft): string {
  return writeYaml(board, LINE_WIDTH);
}

/** Writes a board as a further revision: what differs from its sister. Reading it beside the sister gives the same board. */
export function writeBoardRevision(board: Board | BoardDraft, sister: Board): string {
  const { jolly, id, revision, ...rest } = board;
  const before: Readonly<Record<string, unknown>> = { ...sister };
  const differs = Object.entries(rest).filter(([key, value]) => !sameValue(value, before[key]));
  // Only lists may be missing: one that the sister has and this one has not is empty here.
  const gone = Object.keys(sister).filter((key) => !(key in board)).map((key): [string, unknown[]] => [key, []]); // prettier-ignore
  const lines = Object.fromEntries([...differs, ...gone]);
  return writeYaml({ jolly, id, revision, like: sister.revision, ...lines }, LINE_WIDTH);
}

/** Lists the rules look at; empty while something in them is missing. */
const LISTS = ['headers', 'sockets', 'inputs', 'routes', 'uses', 'faults', 'jumpers'] as const;
const WIDE = { x: 1000, y: 1000 };

/** What is missing in a board that is being described, and what does not hold together in what has been said of it. */
export function draftProblems(draft: BoardDraft, chips: readonly Chip[]): Misfit[] {
  // What the writer of files drops.
  const plain: unknown = JSON.parse(JSON.stringify(draft));
  const { error } = boardSchema().validate(plain, { convert: false, abortEarly: false });
  if (!error) return boardProblems(draft as Board, chips); // by its schema, in the line above
  const missing = error.details.map(({ path, message }) => ({ path: path.join('.'), message }));
  const open = new Set(error.details.map(({ path }) => String(path[0])));
  const whole = Object.fromEntries(LISTS.map((key) => [key, open.has(key) ? [] : (draft[key] ?? [])]));
  const said: unknown = { ...draft, ...whole, outline_mm: open.has('outline_mm') ? WIDE : draft.outline_mm };
  // Each list is whole by its schema, or empty; the rules look at nothing else.
  return open.has('chip') ? missing : [...missing, ...boardProblems(said as Board, chips)];
}

/** What a board says that does not hold together with its chip or with itself. */
export function boardProblems(board: Board, chips: readonly Chip[]): Misfit[] {
  const chip = chips.find((entry) => entry.id === board.chip);
  if (!chip)
    return [
      {
        path: 'chip',
        message: `no chip "${board.chip}" in the catalogue; known: ${chips.map((entry) => entry.id).join(', ')}`,
      },
    ];
  return [
    ...unknownPins(board, chip),
    ...missingLimits(board),
    ...outsideOutline(board),
    ...overlapping(board),
    ...strayJumpers(board),
    ...otherEnding(board),
    ...outsideFlash(board, chip),
    ...withinABlock(board),
    ...routesApart(board),
    ...padsAmiss(board),
  ];
}

/** An image that begins where the chip has no flash. */
function outsideFlash(board: Board, chip: Chip): Misfit[] {
  return board.routes.flatMap(({ load_address }, index) =>
    load_address <= chip.flash_bytes && chip.flash_at + load_address + chip.flash_bytes <= 2 ** 32
      ? []
      : [
          {
            path: `routes.${index}.load_address`,
            message: `"load_address" ${load_address} lies outside the flash of ${chip.name}, which takes images of ${chip.flash_bytes} bytes; it must be from 0 to ${chip.flash_bytes}`,
          },
        ],
  );
}

/** An image that begins within a block of a UF2 file: what lies before it would be written as well. */
function withinABlock({ routes }: Board): Misfit[] {
  return routes.flatMap(
    ({ load_address: at }, index) =>
    at % PAYLOAD === 0
      ? []
      : [{ path: `routes.${index}.load_address`, message: `"load_address" ${at} is no multiple of ${PAYLOAD}; no chip starts an image there` }], // prettier-ignore
  );
}

/** A fixed file name with an ending of its own that is not the route's. */
function otherEnding(board: Board): Misfit[] {
  return board.routes.flatMap((route, index) => {
    if (!isCardRoute(route)) return [];
    const { rule } = route;
    const ending = rule.kind === 'fixed' ? rule.name?.split('.')[1] : undefined;
    return ending === undefined || ending.toUpperCase() === rule.extension.toUpperCase()
      ? []
      : [
          {
            path: `routes.${index}.rule.name`,
            message: `${rule.name} ends in .${ending}, and "extension" says ${rule.extension}`,
          },
        ];
  });
}

/** Routes of one board that are not for the same image, or a route that is there twice. */
function routesApart({ routes: [first, ...others] }: Board): Misfit[] {
  return others.flatMap((route, index) => {
    const path = `routes.${index + 1}`;
    if (route.target !== first.target || route.load_address !== first.load_address)
      return [{ path, message: `the route by ${route.kind} is for ${route.target} at ${route.load_address}; the first one says ${first.target} at ${first.load_address}` }]; // prettier-ignore
    const before = [first, ...others.slice(0, index)];
    return before.some(({ kind }) => kind === route.kind) ? [{ path, message: `there is a route by ${route.kind} before it` }] : []; // prettier-ignore
  });
}

/** Pads that are not as many as their wires, or not all there. */
function padsAmiss({ routes, outline_mm: outline }: Board): Misfit[] {
  return routes.flatMap((route, index): Misfit[] => {
    if (!isWired(route)) return [];
    const path = `routes.${index}.pads`;
    const { labels, wires, at_mm: at } = route.pads;
    if (labels.length !== wires.length)
      return [{ path: `${path}.wires`, message: `${labels.length} labels and ${wires.length} wires: each pad has one of each` }]; // prettier-ignore
    const missing = WIRES_OF[route.kind].filter((wire: Wire) => !wires.includes(wire));
    if (missing.length > 0) return [{ path: `${path}.wires`, message: `no pad for ${missing.join(', ')}` }];
    return at.x < 0 || at.y < 0 || at.x > outline.x || at.y > outline.y ? [{ path: `${path}.at_mm`, message: 'the pads lie off the board' }] : []; // prettier-ignore
  });
}

function unknownPins(board: Board, chip: Chip): Misfit[] {
  const named = [
    ...board.headers.flatMap((header, h) =>
      header.contacts.flatMap((contact, c) => {
        const net = parseNet(contact);
        return 'pin' in net ? [{ path: `headers.${h}.contacts.${c}`, of: header.id, pin: net.pin }] : [];
      }),
    ),
    ...board.sockets.flatMap((socket, s) =>
      (['step', 'dir', 'enable', 'select', 'stall'] as const).flatMap((line) =>
        socket[line] === undefined
          ? []
          : [{ path: `sockets.${s}.${line}`, of: socket.id, pin: socket[line] }],
      ),
    ),
    ...board.inputs.map(({ pin }, i) => ({ path: `inputs.${i}.pin`, of: 'inputs', pin })),
    ...(['uses', 'faults'] as const).flatMap((list) =>
      (board[list] ?? []).flatMap(({ pins }, i) =>
        pins.map((pin, p) => ({ path: `${list}.${i}.pins.${p}`, of: list, pin })),
      ),
    ),
  ];
  return named
    .filter(({ pin }) => !pinGroup(chip, pin))
    .map(({ path, of, pin }) => ({ path, message: `${of}: ${chip.name} has no pin ${pin}` }));
}

function missingLimits({ headers }: Board): Misfit[] {
  return headers.flatMap((header, h) => {
    const gives = header.contacts.find((contact) => ['supply', 'sw'].includes(parseNet(contact).kind));
    return gives === undefined || header.max_a !== undefined
      ? []
      : [
          {
            path: `headers.${h}`,
            message: `${header.id}: a header with ${gives} needs "max_a", what it may give in amperes`,
          },
        ];
  });
}

function outsideOutline(board: Board): Misfit[] {
  const { x, y } = board.outline_mm;
  return contactRows(board)
    .filter(({ row }) => {
      const ends = [contactAt(row, 1), contactAt(row, row.contacts.length)];
      return ends.some((end) => end.x < 0 || end.y < 0 || end.x > x || end.y > y);
    })
    .map(({ path, name }) => ({
      path: `${path}.at_mm`,
      message: `${name} has contacts off the board, which is ${x} mm by ${y} mm`,
    }));
}

function overlapping(board: Board): Misfit[] {
  const rows = contactRows(board).map((entry) => ({ ...entry, room: plugRoom(entry.row) }));
  return rows.flatMap((row, index) => {
    const other = rows.slice(0, index).find((before) => overlap(before.room, row.room));
    return other
      ? [{ path: `${row.path}.at_mm`, message: `${row.name} lies over ${other.name}: move one of them` }]
      : [];
  });
}

function strayJumpers(board: Board): Misfit[] {
  return (board.jumpers ?? []).flatMap((jumper, j) => {
    if (jumper.of === undefined) return [];
    const there = jumper.sets === 'fan voltage' ? board.headers : board.sockets;
    return there.some(({ id }) => id === jumper.of)
      ? []
      : [{ path: `jumpers.${j}.of`, message: `${jumper.id}: the board has no "${jumper.of}"` }];
  });
}
