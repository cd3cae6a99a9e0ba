import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carriedOut, placeKeeper, toolFor } from './fixtures/atTheMachine';
import { demoMachine, factsOf, own } from './fixtures/demo';
import { check } from '../src/checks/checks';
import { applyEdits, type Edit } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { reachOf } from '../src/settings/reachOf';
import { numberOf, spanOf } from '../src/settings/setting';

/** A demo machine whose probe was ruled off so, with its own values on top. */
const machineWith = (id: string, mm: { side: number; face: number }, ...edits: Edit[]) =>
  factsOf(applyEdits(demoMachine(id), [{ path: ['probe_mount', 'side_mm'], value: mm.side }, { path: ['probe_mount', 'face_mm'], value: mm.face }, ...edits])); // prettier-ignore
const outside = (facts: ReturnType<typeof factsOf>) =>
  check(facts, derive(facts)).filter(({ id }) => id === 'map.outside-reach');

describe('the area of a map', () => {
  it('is within reach for a probe that was ruled off two millimetres wrong, and within the plate', () => {
    const tenths = (most: number) => fc.integer({ min: 0, max: most * 10 }).map((one) => one / 10);
    fc.assert(
      fc.property(
        fc.constantFrom('plover', 'bittern'),
        tenths(60),
        tenths(60),
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -2, max: 2, noNaN: true }),
        (id, side, face, dx, dy) => {
          const ruled = machineWith(id, { side, face });
          const settings = derive(ruled);
          const off = { x: numberOf(settings, 'probe.offset.x') + dx, y: numberOf(settings, 'probe.offset.y') + dy };
          const measured = machineWith(id, { side, face }, own('probe.offset.x', off.x), own('probe.offset.y', off.y));
          expect(outside(measured)).toEqual([]);
          const { bed_mm: bed } = measured.machine.frame;
          for (const axis of ['x', 'y'] as const) {
            const [from, to] = spanOf(derive(measured), `map.${axis}`);
            expect(from).toBeGreaterThanOrEqual(bed[axis][0] + 10 - 1e-9);
            expect(to).toBeLessThanOrEqual(bed[axis][1] - 10 + 1e-9);
          }
        },
      ),
    );
  }); // prettier-ignore

  it('that an offset leaves outside is told, and drawn in by one act', () => {
    const edits = [own('probe.offset.y', 60.04)];
    const [told] = outside(factsOf(applyEdits(demoMachine('bittern'), edits)));
    const remedy = told?.remedies.at(-1);
    expect(remedy?.label).toMatch(/^Map from 56\.1 to 250 mm in Y$/);
    const mended = factsOf(applyEdits(demoMachine('bittern'), [...edits, ...(remedy?.edits ?? [])]));
    expect(outside(mended)).toEqual([]);
    expect(spanOf(derive(mended), 'map.y')[0]).toBeGreaterThanOrEqual(reachOf(derive(mended))?.y[0] ?? NaN);
  });

  it('that the board refuses is told with what to do', () => {
    const facts = factsOf(demoMachine('bittern'));
    const keeper = placeKeeper();
    const { result, sent } = carriedOut(toolFor(facts, 'map').run({}), {
      board: (line) => (line === 'map take' ? ['error: the probe does not reach there within the travel'] : (keeper.hear(line) ?? ['done'])),
    });
    expect(result).toMatchObject({ outcome: 'ended', edits: [], causes: [{ look: expect.stringContaining('build and flash anew') }] });
    expect(sent.at(-1)).not.toBe('map take');
  }); // prettier-ignore
});

it.each([
  [2.9, 1],
  [3, 0],
  [0, 0],
])('a map that fades out at %s mm is told %s times', (mm, times) => {
  const facts = factsOf(applyEdits(demoMachine('plover'), [own('map.fade', mm)]));
  expect(check(facts, derive(facts)).filter(({ id }) => id === 'map.fade')).toHaveLength(times);
});
