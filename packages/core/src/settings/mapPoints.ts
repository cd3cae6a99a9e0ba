import { mapGrid, type Point } from '../probe/mapGrid';
import { numberOf, type Settings, spanOf } from './setting';

/** The points of the bed map as it is set, in probing order; undefined without a map or where it has no area. */
export function mapPoints(settings: Settings): { points: Point[]; touchesCentre: boolean } | undefined {
  if (settings.get('map.on')?.value !== true) return undefined;
  const area = { x: spanOf(settings, 'map.x'), y: spanOf(settings, 'map.y') };
  if (area.x[1] <= area.x[0] || area.y[1] <= area.y[0]) return undefined;
  return mapGrid.ofChecked({
    reach: area,
    nx: numberOf(settings, 'map.columns'),
    ny: numberOf(settings, 'map.rows'),
  });
}
