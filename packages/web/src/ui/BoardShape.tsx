import type { BoardLooks } from '@jolly/core/board/boardDraft';
import { NET_SHAPES } from '@jolly/core/formats/swapSheet';
import { contactAt, type ContactRow, plugRoom } from '@jolly/core/board/plugRoom';
import { parseNet } from '@jolly/core/board/net';
import css from './BoardDrawing.module.css';
import { headerNames } from './headerNames';

/** Things on a board that can be lit with a word beside them, by header or socket. */
export type Lit = ReadonlyMap<string, { word: string; state: 'free' | 'taken' | 'here' }>;

/** A board from its data alone, in millimetres with its back edge on top: outline, holes, chip, sockets, headers. */
export function BoardShape({
  board,
  names = false,
  lit,
  quiet = false,
}: {
  board: BoardLooks;
  /** Headers carry their names. */
  names?: boolean;
  lit?: Lit | undefined;
  /** Only its outline and plugs, to lie under another board. */
  quiet?: boolean;
}) {
  const { x: width, y: depth } = board.outline_mm;
  const up = (y: number) => depth - y;
  return (
    <g data-board={board.id}>
      <rect className={css.board} data-quiet={quiet} width={width} height={depth} rx="3" />
      {board.holes_mm.map((hole) => (
        <circle key={`${hole.x}-${hole.y}`} className={css.hole} cx={hole.x} cy={up(hole.y)} r="1.8" />
      ))}
      {!quiet && board.chip_at_mm && (
        <rect
          className={css.chip}
          x={board.chip_at_mm.x - 6}
          y={up(board.chip_at_mm.y) - 6}
          width="12"
          height="12"
          rx="0.8"
        />
      )}
      {board.sockets.map((socket) => (
        <g key={socket.id} data-place={socket.id} data-lit={lit?.get(socket.id)?.state}>
          <rect
            className={css.socket}
            x={socket.at_mm.x}
            y={up(socket.at_mm.y) - 18}
            width="14"
            height="19"
            rx="1"
          />
          {socket.motor && <Row row={{ ...socket.motor, contacts: socket.motor.order }} up={up} />}
        </g>
      ))}
      {!quiet &&
        (board.jumpers ?? []).map((jumper) => (
          <rect
            key={jumper.id}
            className={css.jumper}
            x={jumper.at_mm.x}
            y={up(jumper.at_mm.y)}
            width="4"
            height="2"
            rx="0.4"
          >
            <title>{`${jumper.id}: ${jumper.sets}`}</title>
          </rect>
        ))}
      {!quiet &&
        board.sockets.map(({ id, at_mm }) => (
          <g key={id}>
            <text className={css.name} x={at_mm.x + 7} y={up(at_mm.y)}>
              {id}
            </text>
            <Price x={at_mm.x + 7} y={up(at_mm.y) - 14} word={lit?.get(id)?.word} />
          </g>
        ))}
      {board.headers.map((header) => {
        const room = plugRoom(header);
        const here = lit?.get(header.id);
        return (
          <g key={header.id} data-place={header.id} data-lit={here?.state}>
            <title>{`${header.id}: ${header.contacts.join(', ')}`}</title>
            <Row row={header} up={up} />
            <Price x={(room.left + room.right) / 2} y={up((room.front + room.back) / 2)} word={here?.word} />
          </g>
        );
      })}
      {names &&
        headerNames(board).map(({ id, x, y }) => (
          <text key={id} className={css.label} x={x} y={y}>
            {id}
          </text>
        ))}
    </g>
  );
}

/** The price of landing here, on a small tag of its own, where it is known. */
function Price({ x, y, word }: { x: number; y: number; word: string | undefined }) {
  if (!word) return null;
  const width = 1.8 + word.length * 1.7;
  return (
    <g className={css.price}>
      <rect x={x - width / 2} y={y - 1.7} width={width} height="3.4" rx="0.8" />
      <text x={x} y={y + 1}>
        {word}
      </text>
    </g>
  );
}

/** A contact is told by its shape as well as its colour; see NET_SHAPES. */
function Row({ row, up }: { row: ContactRow; up: (y: number) => number }) {
  const room = plugRoom(row);
  const size = Math.min(row.pitch_mm, 5);
  return (
    <>
      <rect
        className={css.header}
        x={room.left}
        y={up(room.back)}
        width={room.right - room.left}
        height={room.back - room.front}
        rx="0.6"
      />
      {row.contacts.map((contact, index) => {
        const at = contactAt(row, index + 1);
        const kind = /^[ab][12]$/.test(String(contact)) ? 'sw' : parseNet(String(contact)).kind;
        return (
          <path
            key={index}
            className={css.contact}
            data-net={kind}
            d={NET_SHAPES[kind](at.x, up(at.y), size * 0.34)}
          />
        );
      })}
    </>
  );
}
