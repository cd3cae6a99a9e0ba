import { isFilled } from '../tree/filled';
import type { Board } from './board';
import type { Chip } from './chip';
import { needsBootloader } from './route';

/** A board and its chip as they are for one machine. */
export interface BoardAndChip {
  board: Board;
  chip: Chip;
}

/**
 * A board that is flashed from the first byte of its flash on: its images begin at 0, have the bootloader's room as well, and
 * only routes are left that need no bootloader. Undefined where there is none of those.
 */
export function withoutBootloader({ board, chip }: BoardAndChip): BoardAndChip | undefined {
  const routes = board.routes
    .filter((route) => !needsBootloader(route))
    .map((route) => ({ ...route, load_address: 0 }));
  if (!isFilled(routes)) return undefined;
  return {
    board: { ...board, routes },
    chip: { ...chip, flash_bytes: chip.flash_bytes + board.routes[0].load_address },
  };
}
