import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { calibrationTools } from '../src/calibration/calibrationTools';
import { restsOnOf } from '../src/calibration/calibrations';
import { groundsOf, voidBecause } from '../src/machine/ground';
import { derive } from '../src/settings/derive';
import { proofSteps } from '../src/proofs/proofs';
import { demoMachine, factsOf, installed, own, partIndex } from './fixtures/demo';

const before = factsOf(demoMachine('plover'));
const after = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('plover'), edits));
/** The steps that do not hold any more, each with the reason. */
const voidedBy = (now: Facts) =>
  Object.fromEntries(
    proofSteps(before).flatMap((step) => {
      const because = voidBecause(groundsOf(before, step.restsOn), now);
      return because === undefined ? [] : [[step.id, because]];
    }),
  );
const part = (id: string): Edit['path'] => ['parts', partIndex('plover', id), 'part'];
/** Plover with one kind of part described anew in the catalogue. */
const describedAnew = (id: string, as: object) => {
  const parts = installed.catalogue.parts.map((each) => (each.id === id ? { ...each, ...as } : each));
  return factsOf(demoMachine('plover'), { ...installed.catalogue, parts });
};

describe('an outcome holds for the machine it was found on', () => {
  it('as long as nothing it rests on is another', () => {
    expect(voidedBy(before)).toEqual({});
    expect(voidedBy(after())).toEqual({});
    expect(voidedBy(after(own('park.lift', 12)))).toEqual({});
  });

  it('another heater voids what was proven of its heat, and says what it was', () => {
    const voided = voidedBy(after({ path: part('bed-heater'), value: 'bed-24-150' }));
    expect(voided['heat-bed']).toMatch(/^it was tested with the bed heater as .*220.*; it is .*150.* now$/);
    expect(voided['guard-bed']).toBeDefined();
    expect(voided).not.toHaveProperty('heat-hotend');
    expect(voided).not.toHaveProperty('identity');
  });

  it('so does the same heater where it turns out to be another than it was described', () => {
    const voided = voidedBy(describedAnew('bed-24-220', { watts: 120 }));
    expect(voided['heat-bed']).toBe('the bed heater is not as it was when it was tested');
    expect(voidedBy(describedAnew('bed-24-220', { name: 'Bed of another name' }))['heat-bed']).toMatch(/^it was tested with the bed heater as/); // prettier-ignore
  });

  it.each<[string, Edit, string, string]>([
    ['a lead on another contact', { path: ['harness', 'hotend-sensor'], value: { leads: { signal: 'TEMP-B.1', ground: 'TEMP-H.2' } } }, 'warm-hotend', 'the wiring of a thermistor is not as it was when it was tested'],
    ['a motor’s plug turned', { path: ['harness', 'x-motor'], value: { socket: 'M1', turned: true } }, 'motor-x', 'it was tested with the X motor plug as straight; it is turned now'],
    ['another supply', { path: ['supply', 'amps_a'], value: 10 }, 'heat-bed', 'it was tested with the supply as 24 V, 15 A; it is 24 V, 10 A now'],
    ['more travel', { path: ['frame', 'travel_mm', 'x'], value: [-6, 240] }, 'limits', 'the travel is not as it was when it was tested'],
    ['a jumper that was moved', { path: ['jumpers', 'USB'], value: 'usb' }, 'identity', 'the board is not as it was when it was tested'],
    ['a sensor that came to it', { path: ['parts', 99], value: { id: 'room-sensor', part: 't100-a', role: 'chamber' } }, 'cold', 'the chamber thermistor was not there when it was tested'],
  ])('%s', (_what, edit, step, because) => {
    expect(voidedBy(after(edit))[step]?.slice(0, because.length)).toBe(because);
  }); // prettier-ignore

  it('a part that went is named, in whatever order a database gives what was kept', () => {
    const { parts } = demoMachine('plover');
    const without = after({ path: ['parts'], value: parts.filter(({ id }) => id !== 'part-fan') }, { path: ['harness', 'part-fan'] }); // prettier-ignore
    const kept = groundsOf(before, ['fan.*']);
    for (const order of [Object.entries(kept), Object.entries(kept).reverse()])
      expect(voidBecause(Object.fromEntries(order), without)).toBe('the part fan is there no more');
  });

  it('what was not written down holds for nothing', () => {
    expect(voidBecause(undefined, before)).toBe('what it rests on was not written down when it was tested');
  });

  it('the order in which a database keeps names does not matter', () => {
    const shuffled = (value: unknown, seed: number): unknown =>
      Array.isArray(value)
        ? value.map((each) => shuffled(each, seed))
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(
              Object.entries(value)
                .sort(
                  ([one], [other]) =>
                    ((one.length * seed) % 7) - ((other.length * seed) % 7) || (one < other ? 1 : -1),
                ) // prettier-ignore
                .map(([key, each]) => [key, shuffled(each, seed)]),
            )
          : value;
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), (seed) => {
        expect(voidedBy(factsOf(shuffled(demoMachine('plover'), seed) as never))).toEqual({});
      }),
      { numRuns: 10 },
    );
  });
});

describe('what a tool found is taken over only on the machine it was begun on', () => {
  const standing = (tool: string, now: Facts) =>
    voidBecause(groundsOf(before, restsOnOf(before, tool)), now, 'measured');
  const tools = calibrationTools(before, derive(before)).map(({ id }) => id);
  const closer: Edit = { path: ['probe_mount', 'side_mm'], value: 30 };

  it.each(tools)('%s holds while nothing is another, also after settings, and not on another board', (tool) => {
    expect(standing(tool, before)).toBeUndefined();
    expect(standing(tool, after(own('park.lift', 12), { path: ['probe_mount', 'stowed_mm'], value: 3 }))).toBeUndefined();
    if (restsOnOf(before, tool).includes('board'))
      expect(standing(tool, after({ path: ['board', 'copy'], value: 2 }))).toContain('the board');
  }); // prettier-ignore

  it.each(['z-offset', 'probe-place', 'map'])('%s does not outlive another place of the probe', (tool) => {
    expect(standing(tool, after(closer))).toMatch(/is not as it was when it was measured/);
    expect(standing('pid-bed', after(closer))).toBeUndefined();
  });
});
