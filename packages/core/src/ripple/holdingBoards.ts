import type { Board } from '../board/board';
import { chipOf } from '../catalogue/catalogue';
import { type Cost, roomOf } from '../fit/chooseFit';
import type { Facts } from '../machine/facts';
import type { SwapStep } from './swapPlan';
import { swapTo } from './swapTo';

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
      const asked = workOf(before, board);
      return asked
        ? [{ board, left: { flash: room.flash - whole.flash, ram: room.ram - whole.ram }, ...asked }]
        : [];
    })
    .sort(
      (a, b) =>
        a.unplaced.length - b.unplaced.length || a.leads - b.leads || a.left.flash - b.left.flash || (a.board.id < b.board.id ? -1 : 1),
    ); // prettier-ignore
}

function workOf(before: Facts, board: Board): Pick<HoldingBoard, 'unplaced' | 'leads'> | undefined {
  const swap = swapTo(before, board);
  return (
    swap && {
      unplaced: swap.unmeetable
        .flatMap(({ parts }) => parts)
        // Modules are spare where the board has its own.
        .filter((part) => board.drivers !== 'soldered' || !isModule(swap.after, part)),
      leads: swap.plan.steps.filter(isWork).length,
    }
  );
}

const isModule = ({ parts }: Facts, id: string): boolean => parts.find((part) => part.id === id)?.type.kind === 'driver'; // prettier-ignore

const isWork = ({ kind, tasks }: SwapStep): boolean => kind === 'lead' && tasks.some(({ act }) => act !== 'leave'); // prettier-ignore
