import { stringify } from 'yaml';
import { type Board, boardSchema } from '../board/board';
import { type Chip, pinGroup } from '../board/chip';
import { parseNet } from '../board/net';
import { contactAt, contactRows, overlap, plugRoom } from '../board/plugRoom';
import type { Catalogue } from '../catalogue/catalogue';
import { type Misfit, type Read, readYaml } from './readYaml';

/** Reads a board file and checks it against the chips of the catalogue and against itself. */
export function readBoardFile(text: string, { chips }: Pick<Catalogue, 'chips'>): Read<Board> {
  return readYaml<Board>(text, boardSchema, (board) => boardProblems(board, chips));
}

/** Writes a board file; reading it back gives the same board. */
export function writeBoardFile(board: Board): string {
  return stringify(board, { lineWidth: 130, aliasDuplicateObjects: false });
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

/** A fixed file name with an ending of its own that is not the route's. */
function otherEnding(board: Board): Misfit[] {
  return board.routes.flatMap(({ rule }, index) => {
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
