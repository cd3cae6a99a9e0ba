import type { Kept, WayBack } from '@jolly/contract/endpoints/kept';
import type { Machine } from '@jolly/core/machine/machine';
import { sameBoard } from '@jolly/core/machine/same';

/** The newest settings report that is kept of the board a machine has; one of another board tells nothing of it. */
export const keptReport = (
  wayBack: Pick<WayBack, 'kept'> | undefined,
  machine: Pick<Machine, 'board'>,
): Kept | undefined => wayBack?.kept.find((entry) => entry.kind === 'dump' && sameBoard(entry, machine));
