import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CalcError } from '@jolly/core/calculation/calculation';
import { likelyDrives } from '@jolly/core/motion/likelyDrives';
import { stepsPerMm } from '@jolly/core/motion/stepsPerMm';

describe('likelyDrives', () => {
  it.each([
    ['x', { kind: 'belt', pitchMm: 2, teeth: 20, fullSteps: 200, microsteps: 16 }],
    ['y', { kind: 'belt', pitchMm: 2, teeth: 16, fullSteps: 200, microsteps: 16 }],
    ['z', { kind: 'screw', leadMm: 8, fullSteps: 200, microsteps: 16 }],
    ['e', { kind: 'roller', diameterMm: 10.8, gearRatio: 3.5, fullSteps: 200, microsteps: 16 }],
  ] as const)('finds the train of %s first that is met most often', (axis, drive) => {
    const { ranked, lookAt } = likelyDrives({ axis, stepsPerMm: stepsPerMm(drive) });
    expect(ranked[0]).toMatchObject(drive);
    expect(lookAt).not.toBeNull();
  });
  it('every train lies within the tolerance, best first, and the likelihoods add to one', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('x' as const, 'y' as const, 'z' as const, 'e' as const),
        fc.double({ min: 5, max: 8000, noNaN: true }),
        fc.double({ min: 0.05, max: 3, noNaN: true }),
        (axis, told, tolerancePct) => {
          const { ranked, lookAt } = likelyDrives({ axis, stepsPerMm: told, tolerancePct });
          for (const { stepsPerMm: steps, likelihood, ...drive } of ranked) {
            expect(stepsPerMm(drive)).toBe(steps);
            expect(Math.abs(steps / told - 1) * 100).toBeLessThanOrEqual(tolerancePct + 1e-6);
            expect(likelihood).toBeGreaterThan(0);
          }
          const shares = ranked.map(({ likelihood }) => likelihood);
          expect(shares).toEqual([...shares].sort((one, other) => other - one));
          if (ranked.length > 0) expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
          if (ranked.length < 2) expect(lookAt).toBeNull();
        },
      ),
    );
  });
  it('what is to be looked at is not the same for all that are left', () => {
    const { ranked, lookAt } = likelyDrives({ axis: 'x', stepsPerMm: 80 });
    const sizes = ranked.map(
      (drive) => Object.entries(drive).find(([key]) => key === lookAt)?.[1] as unknown,
    );
    expect(new Set(sizes).size).toBeGreaterThan(1);
  });
  it('says so when nothing that is sold comes near', () => {
    expect(likelyDrives({ axis: 'z', stepsPerMm: 3 })).toEqual({ ranked: [], lookAt: null });
  });
  it.each([
    [{ axis: 'a', stepsPerMm: 80 }, 'axis'],
    [{ axis: 'x', stepsPerMm: 0 }, 'stepsPerMm'],
    [{ axis: 'x', stepsPerMm: 80, tolerancePct: 50 }, 'tolerancePct'],
  ])('refuses %j, naming %s', (input, key) => {
    try {
      likelyDrives(input as never);
      expect.unreachable();
    } catch (error) {
      expect(error).toBeInstanceOf(CalcError);
      expect((error as CalcError).key).toBe(key);
    }
  });
});
