import { ActionIcon } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import type { RankedLanding } from '@jolly/core/harness/rankLandings';
import { IconFocusCentered, IconMinus, IconPlus } from '@tabler/icons-react';
import { type PointerEvent, useMemo, useRef, useState } from 'react';
import { BoardShape } from '../../ui/BoardShape';
import type { BenchLead } from './LeadBench';
import { curve, overlaid, placeOf, type Point } from './leadLines';
import { rackLeads, TAG } from './leadRack';
import { litPlaces } from './litPlaces';
import { NetKey } from './NetKey';
import { usePanZoom } from './usePanZoom';
import type { Wiring } from './useWiring';
import css from './Wiring.module.css';

const GUTTER = 20;
const MARGIN = 5;

/** The boards to scale, a rack of tags between them, and a curve for every lead from end to end. */
export function LeadDrawing({
  wiring,
  leads,
  over,
  chosen,
  pointedAt,
  landings,
  onPoint,
  onChoose,
  onTakeUp,
  onLand,
}: {
  wiring: Wiring;
  leads: BenchLead[];
  over: boolean;
  chosen: BenchLead | undefined;
  /** The lead under the pointer or the focus. */
  pointedAt: string | undefined;
  onPoint: (id: string | undefined) => void;
  landings: RankedLanding[];
  onChoose: (id: string | undefined) => void;
  /** By a key: the list of its places is wanted. */
  onTakeUp: (id: string) => void;
  onLand: (lead: BenchLead, landing: Landing) => void;
}) {
  const { boards, swap } = wiring;
  const beside = swap && !over;
  const rackHeight = leads.length * TAG.step;
  const height = Math.max(boards.before.outline_mm.y, boards.after.outline_mm.y, rackHeight);
  const left = beside ? boards.before.outline_mm.x + GUTTER : 0;
  const newAt = { x: left + TAG.width + GUTTER, y: (height - boards.after.outline_mm.y) / 2 };
  const oldAt = beside ? { x: 0, y: (height - boards.before.outline_mm.y) / 2 } : overlaid(wiring, newAt);
  const whole = useMemo(
    () => ({
      x: -MARGIN,
      y: -MARGIN,
      width: newAt.x + boards.after.outline_mm.x + 2 * MARGIN,
      height: height + 2 * MARGIN,
    }),
    [newAt.x, boards.after.outline_mm.x, height],
  );
  const pan = usePanZoom(whole);
  const [dragged, setDragged] = useState<string>();
  const line = useRef<SVGPathElement>(null);
  const grip = useRef<{ from: Point; moved: boolean }>(undefined);

  const rackTop = (height - rackHeight) / 2;
  const rows = useMemo(
    () => rackLeads(wiring, leads, { left, rackTop, beside, newAt, oldAt }),
    // Places are new objects at every drawing; what they say is in these.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [wiring, leads, left, rackTop, beside, newAt.x, newAt.y, oldAt.x, oldAt.y],
  );
  const lit = useMemo(() => litPlaces(landings, chosen?.to), [landings, chosen]);
  const shownLit = chosen ? lit.places : undefined;

  const begin = (event: PointerEvent<SVGGElement>, lead: BenchLead, from: Point) => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    grip.current = { from, moved: false };
    onChoose(lead.part.id);
    setDragged(lead.part.id);
  };
  // The loose end follows the pointer without a render: sixty leads must not be drawn anew for each move.
  const move = (event: PointerEvent) => {
    const held = grip.current;
    if (!held) return;
    held.moved = true;
    line.current?.setAttribute('d', curve(held.from, pan.toDrawing(event.clientX, event.clientY)));
  };
  const drop = (event: PointerEvent, lead: BenchLead) => {
    const held = grip.current;
    grip.current = undefined;
    setDragged(undefined);
    line.current?.setAttribute('d', '');
    if (!held?.moved) return;
    const under = document.elementsFromPoint(event.clientX, event.clientY);
    const hit = under.map((element) => element.closest('[data-new] [data-place]')).find((element) => element);
    const landing = lit.best.get(hit?.getAttribute('data-place') ?? '');
    if (landing) onLand(lead, landing);
  };

  return (
    <div className={css.drawing}>
      <svg
        ref={pan.svg}
        viewBox={pan.viewBox}
        role="group"
        aria-label={
          swap
            ? `${boards.before.name} and ${boards.after.name} with every lead`
            : `${boards.after.name} with every lead`
        }
        {...pan.ground}
      >
        <g transform={`translate(${newAt.x} ${newAt.y})`} data-new="">
          <BoardShape board={boards.after} names lit={shownLit} />
        </g>
        {swap && (
          <g transform={`translate(${oldAt.x} ${oldAt.y})`}>
            <BoardShape board={boards.before} names={beside} quiet={!beside} />
          </g>
        )}
        <g className={css.lines} data-chosen={chosen !== undefined || pointedAt !== undefined}>
          {rows.map(({ lead, old, to }) => (
            <g
              key={lead.part.id}
              data-on={lead === chosen || lead.part.id === pointedAt}
              data-done={lead.done}
              data-differs={lead.differs}
            >
              {old && <path d={old.d} data-old="" />}
              {to && <path d={to.d} />}
            </g>
          ))}
          <path ref={line} className={css.loose} />
        </g>
        {rows.map(({ lead, tag, east }, index) => (
          <g
            key={lead.part.id}
            data-part={lead.part.id}
            data-on={lead === chosen}
            data-done={lead.done}
            data-nowhere={!lead.to}
            data-dragged={dragged === lead.part.id}
            className={css.tag}
            role="button"
            tabIndex={lead === chosen || (!chosen && index === 0) ? 0 : -1}
            aria-pressed={lead === chosen}
            aria-label={`${lead.part.id}, ${lead.to ? placeOf(lead.to) : 'no place'}${lead.done ? ', done' : ''}`}
            transform={`translate(${tag.x} ${tag.y})`}
            onPointerEnter={() => !grip.current && onPoint(lead.part.id)}
            onPointerLeave={() => !grip.current && onPoint(undefined)}
            onFocus={() => onPoint(lead.part.id)}
            onBlur={() => onPoint(undefined)}
            onPointerDown={(event) => begin(event, lead, east)}
            onPointerMove={move}
            onPointerUp={(event) => drop(event, lead)}
            onKeyDown={(event) => keys(event, rows, index, onChoose, onTakeUp)}
          >
            <rect width={TAG.width} height={TAG.height} rx="1.2" />
            <text x={TAG.width / 2} y={TAG.height / 2 + 1.1}>
              {lead.part.id}
            </text>
          </g>
        ))}
      </svg>
      <div className={css.below}>
        <NetKey />
        <span className={css.zoom}>
          <ActionIcon variant="default" aria-label="Nearer" onClick={() => pan.zoom(1 / 1.35)}>
            <IconPlus size={16} />
          </ActionIcon>
          <ActionIcon variant="default" aria-label="Farther" onClick={() => pan.zoom(1.35)}>
            <IconMinus size={16} />
          </ActionIcon>
          <ActionIcon variant="default" aria-label="Whole bench" onClick={pan.reset} disabled={!pan.zoomed}>
            <IconFocusCentered size={16} />
          </ActionIcon>
        </span>
      </div>
    </div>
  );
}

/** Arrow keys go from tag to tag; enter takes the lead up, and the list of its places gets the focus. */
function keys(
  event: React.KeyboardEvent<SVGGElement>,
  rows: readonly { lead: BenchLead }[],
  index: number,
  onChoose: (id: string | undefined) => void,
  onTakeUp: (id: string) => void,
): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step !== undefined) {
    event.preventDefault();
    const next = rows[(index + step + rows.length) % rows.length]?.lead.part.id;
    if (next === undefined) return;
    onChoose(next);
    event.currentTarget.ownerSVGElement?.querySelector<SVGGElement>(`[data-part="${next}"]`)?.focus();
    return;
  }
  if (event.key === 'Escape') return onChoose(undefined);
  if (event.key !== 'Enter' && event.key !== ' ') return;
  event.preventDefault();
  event.stopPropagation();
  const taken = rows[index]?.lead.part.id;
  if (taken !== undefined) onTakeUp(taken);
}
