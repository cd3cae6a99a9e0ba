import { type Plane, planeAt, planeThrough } from '@jolly/core/plate/planeFit';
import type { Live } from './live';

/** How much higher the plate stands at a place for the screws that were turned, mm: it stays a plane. */
export function screwLift(live: Live): (x: number, y: number) => number {
  let known: Live['screws'] | undefined;
  let turned = '';
  let plane: Plane = { c: 0, slopeX: 0, slopeY: 0 };
  return (x, y) => {
    if (live.screws.size === 0) return 0;
    if (live.screws !== known) {
      known = live.screws;
      const now = [...live.screws.values()];
      const told = JSON.stringify(now);
      if (told !== turned) plane = planeThrough(now);
      turned = told;
    }
    return planeAt(plane, x, y);
  };
}
