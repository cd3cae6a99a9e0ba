import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { machineSchema } from '@jolly/core/machine/machine';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, own } from '../../core/test/fixtures/demo';
import { addClip, dropClip, planHandles } from '../src/stations/settings/planHandles';
import { planShape, without } from '../src/stations/settings/planShape';

const machineAfter = (id: string, ...edits: Edit[]) => applyEdits(demoMachine(id), edits);
const shapeOf = (id: string, ...edits: Edit[]) => planShape(derive(factsOf(machineAfter(id, ...edits))));

describe('the bed plan', () => {
  it('shows the nozzle where it stands while the probe is at the Z home spot', () => {
    const { spot, nozzleThen, byProbe, corner } = shapeOf('plover');
    expect(byProbe).toBe(true);
    expect([nozzleThen.x - spot.x, nozzleThen.y - spot.y]).toEqual([38, 9]);
    expect(corner).toEqual({ x: 'min', y: 'min' });
    expect(shapeOf('bittern').corner).toEqual({ x: 'max', y: 'max' });
  });
  it('has no probe, reach or map where there is none, and no map that has no width', () => {
    expect(shapeOf('dunlin')).not.toHaveProperty('probe');
    expect(shapeOf('dunlin')).toMatchObject({ reach: null, byProbe: false });
    expect(shapeOf('plover').map!.points).toHaveLength(25);
    expect(shapeOf('plover', own('map.x.max', 5))).not.toHaveProperty('map');
  });
  it('a hole that does not touch is no hole', () => {
    const box = { x: [0, 10] as [number, number], y: [0, 10] as [number, number] };
    expect(without(box, { x: [20, 30], y: [0, 10] })).toBe('M0 0H10V-10H0Z');
    expect(without(box, { x: [2, 30], y: [3, 4] })).toBe('M0 0H10V-10H0ZM2 -3H10V-4H2Z');
  });
});

describe('handles of the plan', () => {
  it('put anywhere near, leave a valid machine or are refused by its schema, never half', () => {
    const machine = machineAfter('plover', ...addClip(demoMachine('plover')));
    const handles = planHandles(machine, planShape(derive(factsOf(machine))));
    expect(handles.map(({ id }) => id)).toEqual([
      'bed-front', 'bed-back', 'travel-front', 'travel-back', 'clip-0', 'spot',
    ]); // prettier-ignore
    fc.assert(
      fc.property(
        fc.constantFrom(...handles),
        fc.double({ min: -100, max: 400, noNaN: true }),
        fc.double({ min: -100, max: 400, noNaN: true }),
        (handle, x, y) => {
          const after = applyEdits(machine, handle.edits({ x, y }));
          if (handle.nonsense({ x, y }) === undefined)
            expect(machineSchema().validate(after).error).toBeUndefined();
        },
      ),
    );
  });
  it('say why they cannot be put where they make no sense, whatever else stands there', () => {
    const machine = machineAfter('plover', ...addClip(demoMachine('plover')));
    const handles = new Map(planHandles(machine, planShape(derive(factsOf(machine)))).map((handle) => [handle.id, handle]));
    const said = (id: string, x: number, y: number) => handles.get(id)?.nonsense({ x, y });
    expect(said('bed-back', -40, 100)).toBe('Plate, back right corner: at least 20 mm must be left to the other corner.');
    expect(said('travel-front', 100, 1900)).toContain('Travel, front left corner');
    expect(said('spot', 500, 100)).toBe('The Z home spot must be on the plate.');
    expect(said('clip-0', 100, -90)).toBe('Clip 1 must be on the plate.');
    for (const { at, nonsense } of handles.values()) expect(nonsense(at)).toBeUndefined();
  }); // prettier-ignore
  it('a clip comes and goes, the last one without a trace', () => {
    const plover = demoMachine('plover');
    const one = applyEdits(plover, addClip(plover));
    const two = applyEdits(one, addClip(one));
    expect(two.frame.clips_mm).toHaveLength(2);
    expect(applyEdits(two, dropClip(two, 1))).toEqual(one);
    expect(applyEdits(one, dropClip(one, 0))).toEqual(plover);
  });
});
