import { type Board, type Header, type Net, parseNet } from '@jolly/core';
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
        <rect className={css.board} width={width} height={depth} rx="3" />
        {board.holes_mm.map((hole) => (
          <circle key={`${hole.x}-${hole.y}`} className={css.hole} cx={hole.x} cy={up(hole.y)} r="1.8" />
        ))}
        {board.sockets.map((socket) => (
          <g key={socket.id} transform={`translate(${socket.at_mm.x} ${up(socket.at_mm.y) - 18})`}>
            <rect className={css.socket} width="14" height="19" rx="1" />
            <text className={css.name} x="7" y="11">
              {socket.id}
            </text>
          </g>
        ))}
        {board.headers.map((header) => (
          <HeaderDrawing key={header.id} header={header} up={up} />
        ))}
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
        <rect
          className={css.chip}
          x={board.chip_at_mm.x - 6}
          y={up(board.chip_at_mm.y) - 6}
          width="12"
          height="12"
          rx="0.8"
        />
        {look && <circle className={css.look} cx={look.x} cy={up(look.y)} r="9" />}
      </svg>
    </figure>
  );
}

/** A contact is told by its shape: ground square, supply a diamond, switched output a triangle, signal round. */
const CONTACT: Record<Net['kind'], (x: number, y: number, r: number) => string> = {
  gnd: (x, y, r) => `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}z`,
  supply: (x, y, r) =>
    `M${x} ${y - r * 1.25}l${r * 1.25} ${r * 1.25}l${-r * 1.25} ${r * 1.25}l${-r * 1.25} ${-r * 1.25}z`,
  sw: (x, y, r) => `M${x - r} ${y - r}h${2 * r}l${-r} ${2 * r}z`,
  sig: (x, y, r) => `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`,
};

function HeaderDrawing({ header, up }: { header: Header; up: (y: number) => number }) {
  const { x, y } = header.at_mm;
  const step = (index: number) =>
    header.runs === 'right'
      ? { x: x + index * header.pitch_mm, y: up(y) }
      : { x, y: up(y + index * header.pitch_mm) };
  const size = Math.min(header.pitch_mm, 5);
  const last = step(header.contacts.length - 1);
  return (
    <g>
      <title>{`${header.id}: ${header.contacts.join(', ')}`}</title>
      <rect
        className={css.header}
        x={x - size * 0.7}
        y={Math.min(up(y), last.y) - size * 0.7}
        width={last.x - x + size * 1.4}
        height={Math.abs(last.y - up(y)) + size * 1.4}
        rx="0.6"
      />
      {header.contacts.map((contact, index) => {
        const at = step(index);
        const net = parseNet(contact);
        return (
          <path
            key={index}
            className={css.contact}
            data-net={net.kind}
            d={CONTACT[net.kind](at.x, at.y, size * 0.34)}
          />
        );
      })}
    </g>
  );
}
