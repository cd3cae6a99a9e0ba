import { AXES, type Axis } from '@jolly/core/machine/machine';
import type { Edit } from '@jolly/core/machine/edit';
import { describe, expect, it } from 'vitest';
import { own, type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();
const bittern = workshop('bittern');

/** Where the board says it is, beside where it is, for every axis. */
function expectTrue({ values, bench }: Talk, within = 0.25): void {
  const at = values('M114', 'at');
  expect(at['homed']).toBe('xyz');
  for (const axis of AXES)
    expect(Math.abs(Number(at[axis]) - bench.view().position[axis])).toBeLessThan(within);
  expect(bench.view().blocked).toEqual({ x: 0, y: 0, z: 0 });
}

describe('an axis that is homed again', () => {
  it('tells how far off it was met: next to nothing, and what was lost when steps were', async () => {
    const { ask, bench } = await plover.powered();
    // Nothing is known before, so nothing is compared.
    expect(ask('G28').join()).not.toContain('home axis');
    const off = (lines: string[]) => Number(/^home axis=x off=(-?[\d.]+)/m.exec(lines.join('\n'))?.[1]);
    expect(Math.abs(off(ask('G28 X')))).toBeLessThan(0.02);
    bench.change((live) => void live.motorAmps.set('x', 0.05));
    ask('G1 X60 F12000');
    ask('M400');
    bench.change((live) => void live.motorAmps.delete('x'));
    expect(Math.abs(off(ask('G28 X')))).toBeGreaterThan(1);
  });
});

describe('homing ends right', () => {
  const kinds = ['lever-switch-nc', 'lever-switch-no'];
  const sides = ['min', 'max'];
  it.each(kinds.flatMap((kind) => sides.map((side) => [kind, side])))(
    'with %s at the %s end of X and Y',
    async (kind, side) => {
      const edits: Edit[] = (['x', 'y'] as const).flatMap((axis): Edit[] => [
        { path: ['frame', 'switch_at', axis], value: side },
        ...[0, 1].map((index): Edit => ({ path: ['parts', 8 + index, 'part'], value: kind })),
      ]);
      const talk = await plover.changed(...edits);
      expect(talk.ask('G28').at(-1)).toBe('done');
      expectTrue(talk);
    },
  );
  it.each([['X', 'Y', 'Z'], ['Y', 'X', 'Z']])('in the order %s %s %s', async (...order) => {
    const talk = await plover.powered();
    for (const axis of order) expect(talk.ask(`G28 ${axis}`).at(-1)).toBe('done');
    expectTrue(talk);
  }); // prettier-ignore
  it('again and again, from wherever it stands, on the switch too', async () => {
    const talk = await plover.powered(3);
    talk.ask('G28');
    for (const line of ['G28', 'G1 X236 Y212 Z200 F9000', 'G28 X', 'G28 Y', 'G1 X-6 Y-2', 'G28', 'G28 Z']) {
      expect(talk.ask(line).at(-1)).toBe('done');
    }
    expectTrue(talk);
  });
  it.each([1, 2, 3, 4, 5])('on two belts, with seed %i', async (seed) => {
    const talk = await bittern.powered(seed);
    expect(talk.ask('G28').at(-1)).toBe('done');
    expectTrue(talk);
  });
  it('the second touch is slow and decides: the place does not hang on the speed of the first', async () => {
    const place = async (speed: number) => {
      const talk = await plover.builtWith(own('home.speed.x', speed));
      talk.ask('G28 X');
      return Number(talk.values('M114', 'at')['x']) - talk.bench.view().position.x;
    };
    expect(Math.abs((await place(60)) - (await place(10)))).toBeLessThan(0.011);
  });
});

describe('homing asks for open before and after the touch', () => {
  it('a switch that reads the wrong way is refused, however near it stands', async () => {
    for (const axis of ['x', 'y'] as Axis[]) {
      const { ask, values } = await plover.builtWith(own(`switch.${axis}.pressed`, 'low'));
      expect(ask(`G28 ${axis.toUpperCase()}`).at(-1)).toMatch(
        /^stopped: [XY] reads its switch as met and it stays so/,
      );
      expect(values('M114', 'at')['homed']).toBe('---');
    }
  });
  it('a switch that is held is refused', async () => {
    const { ask, bench } = await plover.powered();
    bench.hold('x-switch', true);
    expect(ask('G28 X').at(-1)).toMatch(/^stopped: X reads its switch as met/);
  });
  it('a switch that stays met after the touch is refused', async () => {
    const { ask, bench, heard } = await plover.powered();
    bench.send('G28 X');
    bench.advanceUntil(() => bench.view().pressed['x-switch'] === true, 60);
    bench.hold('x-switch', true);
    bench.advanceUntil(() => heard.some((line) => line.startsWith('stopped')), 60);
    expect(heard.at(-1)).toMatch(/^stopped: X stays met/);
    expect(ask('M114')[0]).toContain('homed=---');
  });
  it('a probe that is held is refused before Z moves down', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28 X Y');
    bench.hold('probe', true);
    const from = bench.view().position.z;
    expect(ask('G28 Z').at(-1)).toMatch(/^stopped: Z reads its probe as met before it moves/);
    expect(bench.view().position.z).toBeGreaterThan(from);
  });
  it('a switch that reads by chance is never trusted', async () => {
    const { ask, bench } = await plover.powered();
    bench.change((live) => {
      live.leads.set('x-switch', {});
      live.pullUps = [];
    });
    bench.change((live) => void live.broken.set('hotend-sensor', 'open'));
    expect(ask('G28 X').at(-1)).toMatch(/^stopped: /);
    expect(ask('M114')[0]).toContain('homed=---');
  });
});
