import type { ProbeMount } from '../machine/machine';
import { probeOffset } from '../probe/probeOffset';

/** Probe offset in X and Y, in mm, from how the probe is mounted. */
export function mountOffset(mount: ProbeMount): { x: number; y: number } {
  return probeOffset.ofChecked({
    side: mount.side,
    sideMm: mount.side_mm,
    face: mount.face,
    faceMm: mount.face_mm,
  });
}
