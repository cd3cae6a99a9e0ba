import type { Board } from '../board/board';
import { chipOf } from '../catalogue/catalogue';
import { type Cost, roomOf } from '../fit/chooseFit';
import { caseOf } from '../harness/wiringCase';
import { findHarness } from '../harness/findHarness';
import { type Facts, resolve } from '../machine/facts';
import { ripple } from './ripple';
import { swapPlan, type SwapStep } from './swapPlan';

/** A board whose chip holds an image of this size, and what going over to it would ask. */
export interface HoldingBoard {
  board: Pick<Board, 'id' | 'name' | 'revision'>;
  /** Bytes that would be left, clear of the brim. */
  left: Cost;
  /** Ids of parts that could not all be connected there. */
  unplaced: string[];
  /** Leads that would be changed by hand. */
  leads: number;
}

/**
 * The boards of the catalogue, other than the machine's own, for which the kit has a target and whose chips hold `whole`
 * (bytes) with headroom. First those where every part finds a place, then by the leads that change, then by the flash
 * they have, the smaller first: what a board costs in a shop is not known, what it costs in work is.
 */
export function holdingBoards(before: Facts, whole: Cost): HoldingBoard[] {
  const { catalogue, kit } = before;
  return catalogue.boards
    .filter(({ id, revision }) => id !== before.board.id || revision !== before.board.revision)
    .filter(({ id, revision }) => kit.targets.some((target) => target.board === id && target.revision === revision))
    .flatMap((board) => {
      const chip = chipOf(catalogue, board);
      const room = chip && roomOf(chip);
      if (!room || whole.flash > room.flash || whole.ram > room.ram) return [];
      const asked = swapTo(before, board);
      return asked
        ? [{ board, left: { flash: room.flash - whole.flash, ram: room.ram - whole.ram }, ...asked }]
        : [];
    })
    .sort(
      (a, b) =>
        a.unplaced.length - b.unplaced.length || a.leads - b.leads || a.left.flash - b.left.flash || (a.board.id < b.board.id ? -1 : 1),
    ); // prettier-ignore
}

function swapTo(
  before: Facts,
  { id, revision, drivers }: Board,
): Pick<HoldingBoard, 'unplaced' | 'leads'> | undefined {
  const found = ripple(before, [{ id: 'board', kind: 'new-board', board: id, revision }], before.catalogue);
  const after = resolve(found.after, before.catalogue);
  if ('problems' in after) return undefined;
  const { steps } = swapPlan(before, after.facts, found.consequences);
  return {
    unplaced: findHarness(caseOf(after.facts, before))
      .unmeetable.flatMap(({ parts }) => parts)
      // Modules are spare where the board has its own.
      .filter((part) => drivers !== 'soldered' || !isModule(after.facts, part)),
    leads: steps.filter(isWork).length,
  };
}

const isModule = ({ parts }: Facts, id: string): boolean => parts.find((part) => part.id === id)?.type.kind === 'driver'; // prettier-ignore

const isWork = ({ kind, tasks }: SwapStep): boolean => kind === 'lead' && tasks.some(({ act }) => act !== 'leave'); // prettier-ignore
