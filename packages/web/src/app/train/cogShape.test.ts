import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenToothPath, cogSize, meshedRotations, toothPath } from './cogShape';

const turn = 2 * Math.PI;
/** How far, between two teeth, a cog stands at an angle: 0 and 1 on a tooth, 0.5 in a gap. */
const between = (rotation: number, teeth: number, angle: number) =>
  ((((angle - rotation) / (turn / teeth)) % 1) + 1) % 1;

describe('the train', () => {
  it('meshes at every meeting point, however many teeth have gone by', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 30 }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 0, max: 60 }),
        (counts, turned) => {
          const sizes = counts.map((teeth) => cogSize(teeth, 24, 32, 200));
          const rotations = meshedRotations(sizes, turned);
          for (let i = 0; i + 1 < sizes.length; i += 1) {
            const left = between(rotations[i]!, counts[i]!, 0);
            const right = between(rotations[i + 1]!, counts[i + 1]!, Math.PI);
            // A tooth of one stands as far from the meeting point as a gap of the other, mirrored.
            const sum = (left + right) % 1;
            expect(Math.min(Math.abs(sum - 0.5), Math.abs(sum - 1.5))).toBeLessThan(1e-6);
          }
        },
      ),
    );
  });
  it('teeth stay on their cog', () => {
    for (const teeth of [1, 4, 9, 30]) {
      const size = cogSize(teeth, 24, 32, 200);
      expect(size.tipRadius).toBeGreaterThan(size.bodyRadius);
      for (const path of [toothPath(size, 1), brokenToothPath(size, 1)]) {
        for (const [x, y] of path
          .slice(1, -1)
          .split('L')
          .map((pair) => pair.split(' ').map(Number))) {
          expect(Math.hypot(x!, y!)).toBeLessThanOrEqual(size.tipRadius + 0.01);
        }
      }
    }
  });
});
