import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, own } from '../../core/test/fixtures/demo';
import { dryHoming } from '../src/index';

const run = (machine: string, ...edits: Edit[]) => {
  const facts = factsOf(applyEdits(demoMachine(machine), edits));
  return dryHoming(facts, derive(facts));
};
const outcomes = (machine: string, ...edits: Edit[]) => run(machine, ...edits).map(({ outcome }) => outcome);

describe('a dry run of homing', () => {
  it.each(['plover', 'bittern', 'dunlin'])('%s as it stands meets a sensor on every axis', (machine) => {
    const legs = run(machine);
    expect(legs.map(({ outcome }) => outcome)).toEqual(['met', 'met', 'met']);
    expect(Math.max(...legs.map(({ nozzleInPlateMm }) => nozzleInPlateMm))).toBe(0);
  });
  it('the probe ends over the Z home spot', () => {
    const end = run('plover', own('home.spot.x', 60))[2]!.path.at(-1)!;
    expect(end.x).toBeCloseTo(60 + 38, 0);
    expect(end.y).toBeCloseTo(105 - -9 + 0, -1);
  });
  it('a reversed motor runs to the other end of the frame, and says where', () => {
    const [x, , z] = run('plover', own('direction.x', true));
    expect(x).toMatchObject({ outcome: 'ran into the frame' });
    expect(x!.what).toContain('high end');
    expect(x!.path.at(-1)!.x).toBeGreaterThan(236);
    expect(z).toMatchObject({ outcome: 'not begun' });
  });
  it('homing towards the end without a switch runs into that end', () => {
    expect(outcomes('plover', own('home.y.side', 'max'))[1]).toBe('ran into the frame');
  });
  it('a switch that reads the wrong way is met at once', () => {
    expect(outcomes('plover', own('switch.x.pressed', 'low'))[0]).toBe('met at once');
  });
  it('an axis without a switch has nothing to meet', () => {
    expect(run('dunlin', { path: ['harness', 'y-switch'] })[1]).toMatchObject({
      with: 'nothing',
      outcome: 'ran into the frame',
    });
  });
  it('a probe that never triggers lets the nozzle into the plate', () => {
    const z = run('plover', own('probe.deploy', 1450))[2]!;
    expect(z.what).toContain('into the plate');
    expect(z.nozzleInPlateMm).toBeGreaterThan(0.5);
  });
  it('a home spot beside the plate is never felt', () => {
    expect(outcomes('plover', own('home.spot.x', -30))[2]).toBe('ran into the frame');
  });
  it('one motor of a cross-belt turned round moves along the other axis and meets nothing', () => {
    expect(outcomes('bittern', own('direction.y', false))[0]).not.toBe('met');
  });
  it('is a pure function of facts, settings and seed', () => expect(run('plover')).toEqual(run('plover')));
});
