import { useMemo } from 'react';
import { overlaid } from './leadLines';
import { TAG } from './leadRack';
import type { Wiring } from './useWiring';

const GUTTER = 20;
const MARGIN = 5;

/** Where boards and rack stand on the bench, in millimetres: side by side, or the old board over the new one. */
export function useBenchLayout({ boards, swap, ...wiring }: Wiring, leads: number, over: boolean) {
  const beside = swap && !over;
  const rackHeight = leads * TAG.step;
  const height = Math.max(boards.before.outline_mm.y, boards.after.outline_mm.y, rackHeight);
  const left = beside ? boards.before.outline_mm.x + GUTTER : 0;
  const newAt = { x: left + TAG.width + GUTTER, y: (height - boards.after.outline_mm.y) / 2 };
  const oldAt = beside
    ? { x: 0, y: (height - boards.before.outline_mm.y) / 2 }
    : overlaid({ boards, swap, ...wiring }, newAt);
  const whole = useMemo(
    () => ({
      x: -MARGIN,
      y: -MARGIN,
      width: newAt.x + boards.after.outline_mm.x + 2 * MARGIN,
      height: height + 2 * MARGIN,
    }),
    [newAt.x, boards.after.outline_mm.x, height],
  );
  return { beside, left, height, newAt, oldAt, whole };
}
