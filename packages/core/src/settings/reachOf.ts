import { EDGE_MARGIN_MM } from './machineReach';
import { probeReach, type Reach } from '../probe/probeReach';
import { numberOf, type Settings, spanOf } from './setting';

/** Where the probe reaches with the settings as they are, in probe coordinates; null when nowhere. */
export function reachOf(settings: Settings): Reach | null {
  return probeReach.ofChecked({
    travel: { x: spanOf(settings, 'travel.x'), y: spanOf(settings, 'travel.y') },
    bed: { x: spanOf(settings, 'bed.x'), y: spanOf(settings, 'bed.y') },
    offset: { x: numberOf(settings, 'probe.offset.x'), y: numberOf(settings, 'probe.offset.y') },
    marginMm: EDGE_MARGIN_MM,
  });
}
