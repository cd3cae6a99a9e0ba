import type { Board, Socket } from '../board/board';
import { type Chip, pinGroup } from '../board/chip';
import { parseNet } from '../board/net';
import { contactAt, contactRows, overlap, plugRoom } from '../board/plugRoom';
import { isCardRoute, isWired, type Wire, WIRES_OF } from '../board/route';
import { PAYLOAD } from '../bytes/uf2';
import type { Misfit } from './readYaml';

/** A board, or as much of one as is said: the rules look at lists, and at the rest where it is there. */
export type SaidOfBoard = Omit<Board, Late> & { [K in Late]?: Board[K] | undefined };
type Late = 'host_serial' | 'chip_at_mm' | 'print_at_mm' | 'holes_mm';

/** What a board says that does not hold together with its chip or with itself. */
export function boardProblems(board: SaidOfBoard, chips: readonly Chip[]): Misfit[] {
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
    ...linesOnOnePin(board),
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
function outsideFlash(board: SaidOfBoard, chip: Chip): Misfit[] {
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
function withinABlock({ routes }: SaidOfBoard): Misfit[] {
  return routes.flatMap(
    ({ load_address: at }, index) =>
    at % PAYLOAD === 0
      ? []
      : [{ path: `routes.${index}.load_address`, message: `"load_address" ${at} is no multiple of ${PAYLOAD}; no chip starts an image there` }], // prettier-ignore
  );
}

/** A fixed file name with an ending of its own that is not the route's. */
function otherEnding(board: SaidOfBoard): Misfit[] {
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
function routesApart({ routes: [first, ...others] }: SaidOfBoard): Misfit[] {
  return others.flatMap((route, index) => {
    const path = `routes.${index + 1}`;
    if (route.target !== first.target || route.load_address !== first.load_address)
      return [{ path, message: `the route by ${route.kind} is for ${route.target} at ${route.load_address}; the first one says ${first.target} at ${first.load_address}` }]; // prettier-ignore
    const before = [first, ...others.slice(0, index)];
    return before.some(({ kind }) => kind === route.kind) ? [{ path, message: `there is a route by ${route.kind} before it` }] : []; // prettier-ignore
  });
}

/** Pads that are not as many as their wires, or not all there. */
function padsAmiss({ routes, outline_mm: outline }: SaidOfBoard): Misfit[] {
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

function unknownPins(board: SaidOfBoard, chip: Chip): Misfit[] {
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

function missingLimits({ headers }: SaidOfBoard): Misfit[] {
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

function outsideOutline(board: SaidOfBoard): Misfit[] {
  const { x, y } = board.outline_mm;
  const isOff = (at: Place) => at.x < 0 || at.y < 0 || at.x > x || at.y > y;
  const size = `${x} mm by ${y} mm`;
  const rows = contactRows(board)
    .filter(({ row }) => [contactAt(row, 1), contactAt(row, row.contacts.length)].some(isOff))
    .map(({ path, name }) => ({
      path: `${path}.at_mm`,
      message: `${name} has contacts off the board, which is ${size}`,
    }));
  const places = placesOn(board)
    .filter(({ at }) => isOff(at))
    .map(({ path, name }) => ({ path, message: `${name} lies off the board, which is ${size}` }));
  return [...rows, ...places];
}

type Place = Board['chip_at_mm'];

/** What is drawn at a place of its own, beside rows of contacts. */
const placesOn = (board: SaidOfBoard): { path: string; name: string; at: Place }[] => [
  ...(board.chip_at_mm ? [{ path: 'chip_at_mm', name: 'the chip', at: board.chip_at_mm }] : []),
  ...(board.print_at_mm ? [{ path: 'print_at_mm', name: 'the print', at: board.print_at_mm }] : []),
  ...(board.holes_mm ?? []).map((at, h) => ({ path: `holes_mm.${h}`, name: `hole ${h + 1}`, at })),
  ...board.sockets.map(({ id, at_mm: at }, s) => ({ path: `sockets.${s}.at_mm`, name: id, at })),
  ...(board.jumpers ?? []).map(({ id, at_mm: at }, j) => ({ path: `jumpers.${j}.at_mm`, name: id, at })),
];

/** A line that a socket, or the host, has a pin to itself for. */
interface OwnLine {
  path: string;
  name: string;
  pin: number;
  kind: 'step' | 'dir' | 'enable' | 'select' | 'receive' | 'send';
  socket?: Socket;
}

/** Modules may be enabled together, and two sockets may be one twice. */
const mayShare = (a: OwnLine, b: OwnLine): boolean =>
  a.kind === b.kind && (a.kind === 'enable' || (a.socket !== undefined && b.socket !== undefined && isTwin(a.socket, b.socket))); // prettier-ignore
const isTwin = (a: Socket, b: Socket) => a.step === b.step && a.dir === b.dir && a.enable === b.enable;

/** Two lines of which one would be steered with the other: a pin was counted wrongly. */
function linesOnOnePin({ sockets, host_serial: host }: SaidOfBoard): Misfit[] {
  const lines: OwnLine[] = [
    ...sockets.flatMap((socket, s) =>
      (['step', 'dir', 'enable', 'select'] as const).flatMap((kind): OwnLine[] => {
        const pin = socket[kind];
        return pin === undefined ? [] : [{ path: `sockets.${s}.${kind}`, name: `${kind} of ${socket.id}`, pin, kind, socket }];
      }),
    ),
    ...(host ? (['receive', 'send'] as const).map((kind): OwnLine => ({ path: `host_serial.${kind}`, name: `${kind} of the host’s line`, pin: host[kind], kind })) : []),
  ];
  return lines.flatMap((line, index) => {
    const other = lines.slice(0, index).find((before) => before.pin === line.pin && !mayShare(before, line));
    return other ? [{ path: line.path, message: `p${line.pin} is the ${other.name} already; the ${line.name} needs another` }] : [];
  });
} // prettier-ignore

function overlapping(board: SaidOfBoard): Misfit[] {
  const rows = contactRows(board).map((entry) => ({ ...entry, room: plugRoom(entry.row) }));
  return rows.flatMap((row, index) => {
    const other = rows.slice(0, index).find((before) => overlap(before.room, row.room));
    return other
      ? [{ path: `${row.path}.at_mm`, message: `${row.name} lies over ${other.name}: move one of them` }]
      : [];
  });
}

function strayJumpers(board: SaidOfBoard): Misfit[] {
  return (board.jumpers ?? []).flatMap((jumper, j) => {
    if (jumper.of === undefined) return [];
    const there = jumper.sets === 'fan voltage' ? board.headers : board.sockets;
    return there.some(({ id }) => id === jumper.of)
      ? []
      : [{ path: `jumpers.${j}.of`, message: `${jumper.id}: the board has no "${jumper.of}"` }];
  });
}
