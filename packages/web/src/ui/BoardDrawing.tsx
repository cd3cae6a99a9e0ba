import type { Board } from '@jolly/core/board/board';
import { BoardShape } from './BoardShape';
import css from './BoardDrawing.module.css';

/** A board to scale, drawn from its data: outline, holes, headers with their contacts, sockets, card slot. */
export function BoardDrawing({
  board,
  cardFile,
  lit = false,
  look,
}: {
  board: Board;
  cardFile?: string | undefined;
  lit?: boolean;
  /** A place to look at; it is ringed. */
  look?: { x: number; y: number } | undefined;
}) {
  const { x: width, y: depth } = board.outline_mm;
  const up = (y: number) => depth - y;
  return (
    <figure className={css.figure}>
      <svg
        viewBox={`-4 -4 ${width + 8} ${depth + 22}`}
        role="img"
        aria-label={
          look
            ? `${board.name} rev ${board.revision}, with the place to look at ringed`
            : `${board.name}, ${lit ? 'powered' : 'unpowered'}, ${cardFile ? `card with ${cardFile} in the slot` : 'card slot empty'}`
        }
      >
        <BoardShape board={board} />
        <text className={css.title} x={board.print_at_mm.x} y={up(board.print_at_mm.y)}>
          {board.name} {board.revision}
        </text>
        <circle
          className={css.lamp}
          data-lit={lit}
          cx={board.print_at_mm.x}
          cy={up(board.print_at_mm.y) + 5}
          r="1.8"
        />
        <g transform={`translate(${width / 2 - 13} ${depth - 3})`}>
          <rect className={css.slot} width="26" height="6" rx="1" />
          {cardFile && (
            <g>
              <path className={css.card} d="M2 3h22v12l-3 3H2z" />
              <text className={css.cardName} x="13" y="12">
                {cardFile}
              </text>
            </g>
          )}
        </g>
        {look && <circle className={css.look} cx={look.x} cy={up(look.y)} r="9" />}
      </svg>
    </figure>
  );
}
