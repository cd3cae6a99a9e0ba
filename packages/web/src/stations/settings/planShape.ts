import type { Point } from '@jolly/core/probe/mapGrid';
import type { Reach } from '@jolly/core/probe/probeReach';
import { mapPoints } from '@jolly/core/settings/mapPoints';
import { mapTime } from '@jolly/core/probe/mapTime';
import { numberOf, type Settings, spanOf } from '@jolly/core/settings/setting';
import { reachOf } from '@jolly/core/settings/reachOf';

export type Span = [number, number];
export interface Area {
  x: Span;
  y: Span;
}

/** Everything the bed plan shows, in mm, from the settings as they are. */
export interface PlanShape {
  travel: Area;
  bed: Area;
  /** Where the probe can be brought, on the plate or beside it. */
  probe?: Area;
  reach: Reach | null;
  byProbe: boolean;
  spot: Point;
  nozzleThen: Point;
  corner: { x: 'min' | 'max'; y: 'min' | 'max' };
  map?: { points: Point[]; seconds: number; touchesCentre: boolean };
}

const TRAVEL_MM_S = 150;

export function planShape(settings: Settings): PlanShape {
  const travel = { x: spanOf(settings, 'travel.x'), y: spanOf(settings, 'travel.y') };
  const probing = settings.get('probe.kind')?.value !== 'none';
  const offset = { x: numberOf(settings, 'probe.offset.x'), y: numberOf(settings, 'probe.offset.y') };
  const spot = { x: numberOf(settings, 'home.spot.x'), y: numberOf(settings, 'home.spot.y') };
  const side = (axis: 'x' | 'y') => (settings.get(`home.${axis}.side`)?.value === 'max' ? 'max' : 'min');
  const map = probing ? mapOf(settings) : undefined;
  return {
    travel,
    bed: { x: spanOf(settings, 'bed.x'), y: spanOf(settings, 'bed.y') },
    ...(probing && { probe: { x: shifted(travel.x, offset.x), y: shifted(travel.y, offset.y) } }),
    reach: probing ? reachOf(settings) : null,
    byProbe: settings.get('home.z.with')?.value === 'probe',
    spot,
    nozzleThen: { x: spot.x - offset.x, y: spot.y - offset.y },
    corner: { x: side('x'), y: side('y') },
    ...(map && { map }),
  };
}

function mapOf(settings: Settings): PlanShape['map'] {
  const map = mapPoints(settings);
  if (!map) return undefined;
  const { seconds } = mapTime({
    points: map.points,
    travelMmS: Math.min(TRAVEL_MM_S, numberOf(settings, 'speed.x')),
    clearMm: numberOf(settings, 'probe.clear'),
    plungeMmS: numberOf(settings, 'probe.feed'),
    deployS: numberOf(settings, 'probe.deploy-time'),
    touches: numberOf(settings, 'probe.touches'),
  });
  return { ...map, seconds };
}

const shifted = ([from, to]: Span, by: number): Span => [from + by, to + by];

/** A rectangle with another one cut out of it, as an SVG path to be filled by the even-odd rule; Y grows upwards. */
export function without(outer: Area, hole: Area): string {
  const inside: Area = { x: common(outer.x, hole.x), y: common(outer.y, hole.y) };
  const empty = inside.x[1] <= inside.x[0] || inside.y[1] <= inside.y[0];
  return box(outer) + (empty ? '' : box(inside));
}

const common = (a: Span, b: Span): Span => [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
const box = ({ x, y }: Area) => `M${x[0]} ${-y[0]}H${x[1]}V${-y[1]}H${x[0]}Z`;
