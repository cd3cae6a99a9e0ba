import type { Machine } from '@jolly/core/machine/machine';
import type { Point } from '@jolly/core/probe/mapGrid';
import { type Edit, overrideEdit } from '@jolly/core/machine/edit';
import type { PlanShape } from './planShape';

/** Something on the plan that can be taken hold of. */
export interface Handle {
  id: string;
  label: string;
  at: Point;
  shape: 'spot' | 'corner' | 'travel' | 'clip';
  /** What changes when it is put somewhere. */
  edits: (to: Point) => Edit[];
  /** Why it cannot be put there; undefined where it can. */
  nonsense: (to: Point) => string | undefined;
}

const CLIP_MM = 20;
/** No plate and no travel is smaller than this; a corner that slipped over the other is meant by nobody. */
const SMALLEST_MM = 20;
const tenth = (value: number) => Math.round(value * 10) / 10;
const whole = (value: number) => Math.round(value);

/** Every handle of a plan: the Z home spot, two corners of plate and travel each, and the clips. */
export function planHandles(machine: Machine, shape: PlanShape): Handle[] {
  const because = 'put there on the bed plan';
  const corner = (
    id: string,
    label: string,
    key: 'bed_mm' | 'travel_mm',
    index: 0 | 1,
    look: Handle['shape'],
  ): Handle => {
    const area = key === 'bed_mm' ? shape.bed : shape.travel;
    const other = { x: area.x[1 - index] ?? 0, y: area.y[1 - index] ?? 0 };
    const room = (to: Point) => (['x', 'y'] as const).map((axis) => (index === 0 ? other[axis] - to[axis] : to[axis] - other[axis])); // prettier-ignore
    return {
      id,
      label,
      nonsense: (to) =>
        room(to).some((mm) => mm < SMALLEST_MM)
          ? `${label}: at least ${SMALLEST_MM} mm must be left to the other corner.`
          : undefined,
      shape: look,
      at: { x: area.x[index], y: area.y[index] },
      edits: (to) =>
        (['x', 'y'] as const).map((axis) => ({ path: ['frame', key, axis, index], value: whole(to[axis]) })),
    };
  };
  return [
    corner('bed-front', 'Plate, front left corner', 'bed_mm', 0, 'corner'),
    corner('bed-back', 'Plate, back right corner', 'bed_mm', 1, 'corner'),
    corner('travel-front', 'Travel, front left corner', 'travel_mm', 0, 'travel'),
    corner('travel-back', 'Travel, back right corner', 'travel_mm', 1, 'travel'),
    ...(machine.frame.clips_mm ?? []).map((clip, index): Handle => ({
      id: `clip-${index}`,
      label: `Clip ${index + 1}`,
      shape: 'clip',
      nonsense: (to) => offPlate(`Clip ${index + 1}`, shape, to),
      at: { x: (clip.x[0] + clip.x[1]) / 2, y: (clip.y[0] + clip.y[1]) / 2 },
      edits: (to) => {
        const [halfX, halfY] = [(clip.x[1] - clip.x[0]) / 2, (clip.y[1] - clip.y[0]) / 2];
        return [
          {
            path: ['frame', 'clips_mm', index],
            value: {
              x: [tenth(to.x - halfX), tenth(to.x + halfX)],
              y: [tenth(to.y - halfY), tenth(to.y + halfY)],
            },
          },
        ];
      },
    })),
    ...(shape.byProbe
      ? [
          {
            id: 'spot',
            label: 'Z home spot',
            shape: 'spot' as const,
            at: shape.spot,
            nonsense: (to: Point) => offPlate('The Z home spot', shape, to),
            edits: (to: Point) =>
              (['x', 'y'] as const).map((axis) =>
                overrideEdit(`home.spot.${axis}`, tenth(to[axis]), because),
              ),
          },
        ]
      : []),
  ];
}

const offPlate = (what: string, { bed }: PlanShape, { x, y }: Point): string | undefined =>
  x < bed.x[0] || x > bed.x[1] || y < bed.y[0] || y > bed.y[1] ? `${what} must be on the plate.` : undefined;

/** A clip more, at the front edge of the plate. */
export function addClip(machine: Machine): Edit[] {
  const { bed_mm: bed, clips_mm: clips = [] } = machine.frame;
  const x = bed.x[0] + 30 + clips.length * 40;
  return [
    {
      path: ['frame', 'clips_mm'],
      value: [...clips, { x: [x, x + CLIP_MM], y: [bed.y[0], bed.y[0] + CLIP_MM] }],
    },
  ];
}

/** One clip less; the last one takes the list with it. */
export function dropClip(machine: Machine, index: number): Edit[] {
  const clips = (machine.frame.clips_mm ?? []).filter((_, at) => at !== index);
  return [{ path: ['frame', 'clips_mm'], ...(clips.length > 0 && { value: clips }) }];
}
