import { ActionIcon } from '@mantine/core';
import type { Landing } from '@jolly/core/machine/landing';
import type { RankedLanding } from '@jolly/core/harness/rankLandings';
import { IconFocusCentered, IconMinus, IconPlus } from '@tabler/icons-react';
import { type KeyboardEvent, useMemo } from 'react';
import { BoardShape } from '../../ui/BoardShape';
import type { BenchLead } from './benchLead';
import { placeOf } from './leadLines';
import { rackLeads, TAG } from './leadRack';
import { litPlaces } from './litPlaces';
import { NetKey } from './NetKey';
import { useBenchLayout } from './useBenchLayout';
import { useDraggedLead } from './useDraggedLead';
import { usePanZoom } from './usePanZoom';
import type { Wiring } from './useWiring';
import css from './Wiring.module.css';

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
  onHeader,
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
  /** A header of the board was pointed at. */
  onHeader: (header: string) => void;
}) {
  const { boards, swap } = wiring;
  const { beside, left, height, newAt, oldAt, whole } = useBenchLayout(wiring, leads.length, over);
  const pan = usePanZoom(whole);
  const rackTop = (height - leads.length * TAG.step) / 2;
  const rows = useMemo(
    () => rackLeads(wiring, leads, { left, rackTop, beside, newAt, oldAt }),
    // Places are new objects at every drawing; what they say is in these.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [wiring, leads, left, rackTop, beside, newAt.x, newAt.y, oldAt.x, oldAt.y],
  );
  const lit = useMemo(() => litPlaces(landings, chosen?.to), [landings, chosen]);

  const drag = useDraggedLead({
    toDrawing: pan.toDrawing,
    onTaken: onChoose,
    onDropped: (lead, place) => {
      const landing = lit.best.get(place);
      if (landing) onLand(lead, landing);
    },
  });

  return (
    <div className={css.drawing}>
      <svg
        ref={pan.svg}
        viewBox={pan.viewBox}
        role="group"
        aria-label={`${swap ? `${boards.before.name} and ` : ''}${boards.after.name} with every lead`}
        {...pan.ground}
      >
        <Boards {...{ wiring, newAt, oldAt, beside, onHeader }} lit={chosen && lit.places} />
        <g className={css.lines} data-chosen={chosen !== undefined || pointedAt !== undefined}>
          {rows.map((row) => (
            <Curves
              key={row.lead.part.id}
              {...row}
              on={row.lead === chosen || row.lead.part.id === pointedAt}
            />
          ))}
          <path ref={drag.line} className={css.loose} />
        </g>
        {rows.map((row, index) => (
          <Tag
            key={row.lead.part.id}
            row={row}
            chosen={row.lead === chosen}
            reachable={row.lead === chosen || (!chosen && index === 0)}
            drag={drag}
            onPoint={onPoint}
            onKeyDown={(event) => keys(event, rows, index, onChoose, onTakeUp)}
          />
        ))}
      </svg>
      <div className={css.below}>
        <NetKey />
        <Zoom pan={pan} />
      </div>
    </div>
  );
}

/** The board that leads go to, and the one they come from. */
function Boards({
  wiring: { boards, swap },
  newAt,
  oldAt,
  beside,
  lit,
  onHeader,
}: Pick<ReturnType<typeof useBenchLayout>, 'newAt' | 'oldAt' | 'beside'> & {
  wiring: Wiring;
  lit: ReturnType<typeof litPlaces>['places'] | undefined;
  onHeader: (header: string) => void;
}) {
  return (
    <>
      <g
        transform={`translate(${newAt.x} ${newAt.y})`}
        data-new=""
        onClick={({ target }) => {
          const place = target instanceof Element ? target.closest('[data-place]') : null;
          const header = place?.getAttribute('data-place');
          if (header && boards.after.headers.some(({ id }) => id === header)) onHeader(header);
        }}
      >
        <BoardShape board={boards.after} names lit={lit} />
      </g>
      {swap && (
        <g transform={`translate(${oldAt.x} ${oldAt.y})`}>
          <BoardShape board={boards.before} names={beside} quiet={!beside} />
        </g>
      )}
    </>
  );
}

/** A lead where it was, and where it goes. */
function Curves({ lead, old, to, on }: Row & { on: boolean }) {
  return (
    <g data-on={on} data-done={lead.done} data-differs={lead.differs}>
      {old && <path d={old.d} data-old="" />}
      {to && <path d={to.d} />}
    </g>
  );
}

type Row = ReturnType<typeof rackLeads>[number];

/** A lead's name in the rack, to be chosen, or dragged to where it shall go. */
function Tag({
  row: { lead, tag, east },
  chosen,
  reachable,
  drag,
  onPoint,
  onKeyDown,
}: {
  row: Row;
  chosen: boolean;
  /** The one of the rack that the tabulator comes to. */
  reachable: boolean;
  drag: ReturnType<typeof useDraggedLead>;
  onPoint: (id: string | undefined) => void;
  onKeyDown: (event: KeyboardEvent<SVGGElement>) => void;
}) {
  const { id } = lead.part;
  return (
    <g
      data-part={id}
      data-on={chosen}
      data-done={lead.done}
      data-nowhere={!lead.to}
      data-dragged={drag.dragged === id}
      className={css.tag}
      role="button"
      tabIndex={reachable ? 0 : -1}
      aria-pressed={chosen}
      aria-label={`${id}, ${lead.to ? placeOf(lead.to) : 'no place'}${lead.done ? ', done' : ''}`}
      transform={`translate(${tag.x} ${tag.y})`}
      onPointerEnter={() => !drag.holds() && onPoint(id)}
      onPointerLeave={() => !drag.holds() && onPoint(undefined)}
      onFocus={() => onPoint(id)}
      onBlur={() => onPoint(undefined)}
      onPointerDown={(event) => drag.begin(event, lead, east)}
      onPointerMove={drag.move}
      onPointerUp={(event) => drag.drop(event, lead)}
      onPointerCancel={drag.cancel}
      onKeyDown={onKeyDown}
    >
      <rect width={TAG.width} height={TAG.height} rx="1.2" />
      <text x={TAG.width / 2} y={TAG.height / 2 + 1.1}>
        {id}
      </text>
    </g>
  );
}

function Zoom({ pan }: { pan: ReturnType<typeof usePanZoom> }) {
  return (
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
  );
}

/** Arrow keys go from tag to tag; enter takes the lead up, and the list of its places gets the focus. */
function keys(
  event: KeyboardEvent<SVGGElement>,
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
