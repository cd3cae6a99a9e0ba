import type { Board } from '@jolly/core/board/board';
import { type Box, boxOf, headerNames } from '../../ui/headerNames';
import type { BenchLead } from './benchLead';
import { curve, endPoint, type Point } from './leadLines';
import type { Wiring } from './useWiring';

/** The tags between the boards, in millimetres of the drawing. */
export const TAG = { width: 30, height: 4.6, step: 5.6 };

/** Where boards and rack lie in the drawing. */
export interface RackPlace {
  left: number;
  rackTop: number;
  /** The old board lies beside the new one, and not under it. */
  beside: boolean | undefined;
  newAt: Point;
  oldAt: Point;
}

/** A lead's tag, where it is drawn from, and its two halves: to the old board and to the new one. */
export interface RackedLead {
  lead: BenchLead;
  tag: Point;
  east: Point;
  old: { d: string } | undefined;
  to: { d: string } | undefined;
}

const moved = (point: Point | undefined, by: Point): Point | undefined =>
  point && { x: point.x + by.x, y: point.y + by.y };

const namesOn = (board: Board, at: Point): Box[] =>
  headerNames(board).map((name) => boxOf({ ...name, x: name.x + at.x, y: name.y + at.y }));

/** Racks the leads in the order of their ends, so that curves cross as little as they can, clear of names. */
export function rackLeads(
  { boards, swap }: Wiring,
  leads: readonly BenchLead[],
  { left, rackTop, beside, newAt, oldAt }: RackPlace,
): RackedLead[] {
  const newEnd = ({ to }: BenchLead) => endPoint(boards.after, to);
  const oldEnd = ({ from }: BenchLead) => (swap ? endPoint(boards.before, from) : undefined);
  const middleOf = (lead: BenchLead) => {
    const ends = [newEnd(lead), oldEnd(lead)].flatMap((end) => (end ? [end.y] : []));
    return ends.length > 0 ? ends.reduce((sum, y) => sum + y, 0) / ends.length : Infinity;
  };
  const [newNames, oldNames] = [namesOn(boards.after, newAt), namesOn(boards.before, oldAt)];
  return [...leads]
    .sort((a, b) => middleOf(a) - middleOf(b))
    .map((lead, index) => {
      const tag = { x: left, y: rackTop + index * TAG.step };
      const west = { x: tag.x, y: tag.y + TAG.height / 2 };
      const east = { x: tag.x + TAG.width, y: west.y };
      const old = moved(oldEnd(lead), oldAt);
      const end = moved(newEnd(lead), newAt);
      return {
        lead,
        tag,
        east,
        old: old && { d: beside ? curve(old, west, oldNames) : curve(old, east, newNames) },
        to: end && { d: curve(east, end, newNames) },
      };
    });
}
