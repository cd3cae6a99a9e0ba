import { drivenWith } from '@jolly/core/settings/driverRules';
import { partFor } from '@jolly/core/machine/facts';
import { expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import type { Driver } from '../src/plant/driver';
import type { Frame } from '../src/plant/frame';
import { motorsWarm } from '../src/plant/motorsWarm';

const bittern = factsOf(demoMachine('bittern'));
/** Drivers that each give so much of what all their motors are rated for. */
const giving = (share: number) =>
  ({
    drivers: () =>
      new Map(
        (['x', 'z'] as const).map((axis) => {
          const motors = drivenWith(bittern, partFor(bittern, 'motor', axis))?.motors ?? [];
          const amps = share * motors.reduce((sum, { type }) => sum + type.rated_a, 0);
          return [axis, { amps: () => amps } as Driver]; // nothing else is asked of it
        }),
      ),
  }) as unknown as Frame; // as above

it('two motors on one driver share its current, and get as warm as one that has its own', () => {
  const { x, z } = motorsWarm(bittern, giving(0.7));
  expect(z).toBeCloseTo(x ?? 0, 9);
  expect(motorsWarm(bittern, giving(1.3)).z).toBeGreaterThan(100);
});
