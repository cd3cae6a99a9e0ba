import { planeAt, planeThrough } from '@jolly/core/plate/planeFit';
import type { Live } from './live';

/** How much higher the plate stands at a place for the screws that were turned, mm: it stays a plane. */
export function screwLift(live: Live): (x: number, y: number) => number {
  const screws = live.facts.machine.frame.screws?.at ?? [];
  let turned = '';
  let plane = { c: 0, slopeX: 0, slopeY: 0 };
  return (x, y) => {
    if (live.screws.size === 0) return 0;
    const now = [...live.screws.values()].join();
    if (now !== turned) {
      turned = now;
      plane = planeThrough(screws.map((screw) => ({ ...screw, z: live.screws.get(screw.id) ?? 0 })));
    }
    return planeAt(plane, x, y);
  };
}
