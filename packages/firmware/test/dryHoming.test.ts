import { dryHoming, type HomingLeg } from '@jolly/bench';
import type { Edit } from '@jolly/core/machine/edit';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, workshop } from './fixtures/builtMachine';

const shop = workshop();

async function run(machine: string, ...edits: Edit[]): Promise<HomingLeg[]> {
  const facts = await demoFacts(machine, ...edits);
  const { image } = flashed(facts, await buildFor(facts, shop.compiler()));
  return dryHoming(facts, image ?? new Uint8Array(0));
}
const leg = (legs: HomingLeg[], axis: string) => legs.find((entry) => entry.axis === axis)!;

describe('a dry run of homing with the image that was built', () => {
  it.each(['plover', 'bittern', 'dunlin'])(
    '%s as it stands meets a sensor on every axis',
    async (machine) => {
      const legs = await run(machine);
      expect(legs.map(({ outcome }) => outcome)).toEqual(['met', 'met', 'met']);
      expect(Math.max(...legs.map(({ nozzleInPlateMm }) => nozzleInPlateMm))).toBeLessThan(0.3);
    },
  );
  it('the probe ends over the Z home spot', async () => {
    const end = leg(await run('plover', own('home.spot.x', 60)), 'z').path.at(-1)!;
    expect(end.x).toBeCloseTo(60 + 38, 0);
    expect(end.y).toBeCloseTo(105 + 9, 0);
  });
  it('a reversed motor runs to the other end of the frame, in the words of the image, and Y is still tried', async () => {
    const legs = await run('plover', own('direction.x', true));
    expect(leg(legs, 'x')).toMatchObject({ outcome: 'stopped' });
    expect(leg(legs, 'x').what).toMatch(
      /X homing did not meet its switch; it stands at 23\d\.\d mm, after \d+ steps/,
    );
    expect(leg(legs, 'y').outcome).toBe('met');
    expect(leg(legs, 'z')).toMatchObject({ outcome: 'refused' });
  });
  it('a switch that reads the wrong way is not met', async () => {
    const x = leg(await run('plover', own('switch.x.pressed', 'low')), 'x');
    expect(x.outcome).toBe('stopped');
    expect(x.what).toContain('as met and it stays so');
  });
  it('an axis without a switch is refused', async () => {
    const y = leg(await run('dunlin', { path: ['harness', 'y-switch'] }), 'y');
    expect(y).toMatchObject({ outcome: 'refused' });
    expect(y.what).toContain('no switch');
  });
  it('a probe that never comes out lets the nozzle into the plate', async () => {
    const z = leg(await run('plover', own('probe.deploy', 1450)), 'z');
    expect(z.outcome).toBe('stopped');
    expect(z.nozzleInPlateMm).toBeGreaterThan(0.5);
  });
  it('one motor of a cross-belt turned round meets nothing where it should', async () => {
    expect(leg(await run('bittern', own('direction.y', false)), 'x').outcome).not.toBe('met');
  });
  it('is a pure function of facts, image and seed', async () => {
    expect(await run('plover')).toEqual(await run('plover'));
  });
});
