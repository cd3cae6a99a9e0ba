import { powerOn } from '@jolly/bench';
import type { Edit } from '@jolly/core/machine/edit';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, type Talk, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

describe('every option is real in the code', () => {
  it('machine.name and the plate are what the board reports', async () => {
    const { ask } = await plover.builtWith(own('machine.name', 'Other'), own('bed.y.max', 205));
    const lines = ask('M115').join('\n');
    expect(lines).toContain('name="Other"');
    expect(lines).toContain('plate-y=0.0..205.0');
  });
  it('travel moves the limit', async () => {
    const { ask } = await plover.builtWith(own('travel.x.max', 100));
    ask('G28 X');
    expect(ask('G1 X100 F9000').at(-1)).toBe('done');
    expect(ask('G1 X101')[0]).toBe('error: outside the travel');
  });
  it.each(['x', 'y', 'z'] as const)('direction.%s turns the motor', async (axis) => {
    const way = async (talk: Talk) => {
      const from = talk.bench.view().position[axis];
      talk.ask('G91');
      talk.ask(`G1 ${axis.toUpperCase()}4 F600`);
      talk.ask('M400');
      return talk.bench.view().position[axis] - from;
    };
    const as = (await way(await plover.powered())) as number;
    expect(as).toBeCloseTo(4, 1);
    const inverted = !(derive(plover.facts()).get(`direction.${axis}`)?.value as boolean);
    expect(await way(await plover.builtWith(own(`direction.${axis}`, inverted)))).toBeCloseTo(-4, 1);
  });
  it('speed and acceleration make moves longer', async () => {
    const seconds = async (talk: Talk) => {
      talk.ask('G28 X');
      const from = talk.bench.nowS();
      talk.ask('G1 X100 F12000');
      talk.ask('M400');
      return talk.bench.nowS() - from;
    };
    const usual = await seconds(await plover.powered());
    expect(await seconds(await plover.builtWith(own('speed.x', 20)))).toBeGreaterThan(usual + 3);
    expect(await seconds(await plover.builtWith(own('accel.x', 50)))).toBeGreaterThan(usual + 1);
  });
  it('switch.x.pressed turns what a switch says', async () => {
    expect((await plover.powered()).ask('M119')[0]).toContain('x=open');
    expect((await plover.builtWith(own('switch.x.pressed', 'low'))).ask('M119')[0]).toContain('x=closed');
  });
  it('switch.x.pull-up keeps an input without a resistor from floating', async () => {
    const moved = {
      path: ['harness', 'x-switch'],
      value: { leads: { signal: 'STOP-Z.3', ground: 'STOP-Z.2' } },
    };
    const wired = await demoFacts('plover', moved);
    const states = async (...edits: Edit[]) => {
      const built = flashed(
        wired,
        await buildFor(await demoFacts('plover', moved, ...edits), plover.compiler()),
      );
      const { ask, bench } = await talkTo({ facts: wired, state: built });
      bench.hold('x-switch', true);
      return new Set(Array.from({ length: 12 }, () => /x=(\w+)/.exec(ask('M119')[0]!)?.[1]));
    };
    expect(await states()).toEqual(new Set(['closed']));
    expect(await states(own('switch.x.pull-up', false))).toEqual(new Set(['closed', 'open']));
  });
  it('home.x.side runs to the other end', async () => {
    const { ask, bench } = await plover.builtWith(own('home.x.side', 'max'));
    expect(ask('G28 X').at(-1)).toBe('stopped: X homing did not meet its switch');
    expect(bench.view().blocked.x).toBeGreaterThan(0);
  });
  it('home.speed.x sets how long homing takes', async () => {
    const seconds = async (talk: Talk) => {
      talk.ask('G28 X');
      return talk.bench.nowS();
    };
    expect(await seconds(await plover.builtWith(own('home.speed.x', 5)))).toBeGreaterThan(
      2 * (await seconds(await plover.powered())),
    );
  });
  it('home.spot and probe.offset decide where the nozzle stands for Z', async () => {
    const { ask, bench } = await plover.builtWith(own('home.spot.x', 60), own('probe.offset.y', 20));
    ask('G28');
    expect(bench.view().position.x).toBeCloseTo(60 + 38, 0);
    expect(bench.view().position.y).toBeCloseTo(105 - 20, 0);
  });
  it('probe.offset.z moves zero', async () => {
    const height = async (talk: Talk) => {
      talk.ask('G28');
      return Number(talk.values('M114', 'at')['z']) - talk.bench.view().position.z;
    };
    const shift =
      (await height(await plover.builtWith(own('probe.offset.z', -3.05)))) -
      (await height(await plover.powered()));
    expect(shift).toBeCloseTo(1, 1);
  });
  it('probe.clear lifts the nozzle before and after probing', async () => {
    const { ask, values } = await plover.builtWith(own('probe.clear', 15));
    ask('G28');
    expect(Number(values('M114', 'at')['z'])).toBeCloseTo(2.05 + 15, 1);
  });
  it('probe.deploy is the pulse that lets the pin out', async () => {
    const { ask, bench } = await plover.builtWith(own('probe.deploy', 1450));
    ask('M401');
    expect(bench.view().probe?.deployed).toBe(false);
    const right = await plover.powered();
    right.ask('M401');
    expect(right.bench.view().probe?.deployed).toBe(true);
  });
  it('probe.kind none knows no probe', async () => {
    const { ask } = await plover.builtWith(own('probe.kind', 'none'), own('home.z.with', 'switch'));
    expect(ask('M401')[0]).toBe('error: this image does not know it, nothing done: "M401"');
    expect(ask('G28 Z')[0]).toBe('error: an axis has no switch to be homed with');
  });
  it('sensor.hotend reads through another table', async () => {
    const read = (talk: Talk) => Number(talk.values('M105', 'heat')['now']);
    const heated = async (talk: Talk) => {
      talk.ask('M104 S150');
      talk.bench.advance(150);
      return read(talk) - talk.bench.view().temperatureC.hotend!;
    };
    expect(Math.abs(await heated(await plover.powered()))).toBeLessThan(2);
    expect(Math.abs(await heated(await plover.builtWith(own('sensor.hotend', 't100-b'))))).toBeGreaterThan(4);
  });
  it('heat.hotend.max is the highest target', async () => {
    expect((await plover.builtWith(own('heat.hotend.max', 200))).ask('M104 S201')[0]).toBe(
      'error: target out of range',
    );
    expect((await plover.powered()).ask('M104 S201').at(-1)).toBe('done');
  });
  it('heat.bed.min stops a machine that is colder', async () => {
    const { bench, heard } = await plover.builtWith(own('heat.bed.min', 25));
    bench.advance(5);
    expect(heard).toContain('stopped: bed sensor open or too cold');
  });
  it('bed.heated off knows no bed heater', async () => {
    expect((await plover.builtWith(own('bed.heated', false))).ask('M140 S50')[0]).toBe(
      'error: no such heater',
    );
  });
  it('guard windows decide how soon it trips', async () => {
    const tripped = async (talk: Talk) => {
      talk.ask('M190 S60');
      talk.bench.chill('bed', 8);
      const from = talk.bench.nowS();
      while (!talk.heard.some((line) => line.startsWith('stopped')) && talk.bench.nowS() - from < 900)
        talk.bench.advance(1);
      return talk.bench.nowS() - from;
    };
    expect(
      await tripped(await plover.builtWith(own('guard.bed.drop-time', 300), own('guard.bed.rise-time', 600))),
    ).toBeGreaterThan((await tripped(await plover.powered())) + 150);
  });
  it('link.baud is the speed of the line', async () => {
    const slow = flashed(
      plover.facts(),
      await buildFor(await demoFacts('plover', own('link.baud', 9600)), plover.compiler()),
    );
    const heard: string[] = [];
    const bench = await powerOn({
      facts: plover.facts(),
      state: slow,
      hostBaud: 9600,
      onLine: (line) => void heard.push(line),
    });
    bench.send('M114');
    bench.advance(1);
    expect(heard.some((line) => line.startsWith('at x='))).toBe(true);
  });
  it('store.kept off stores nothing, store.report off reports nothing', async () => {
    expect((await plover.builtWith(own('store.kept', false))).ask('M500')[0]).toMatch(/^error/);
    expect((await plover.builtWith(own('store.report', false))).ask('M503')[0]).toBe(
      'error: this image has no settings report',
    );
  });
});

describe('options shrink what they leave out', () => {
  it.each([
    ['store.kept', false],
    ['store.report', false],
    ['probe.kind', 'none'],
    ['control.hotend', 'on-off'],
  ])('%s = %s', async (key, value) => {
    const extra =
      key === 'probe.kind'
        ? [own('home.z.with', 'switch')]
        : key === 'control.hotend'
          ? [own('control.bed', 'on-off')]
          : [];
    const lean = await buildFor(await demoFacts('plover', own(key, value), ...extra), plover.compiler());
    if ('failed' in lean) throw new Error(lean.failed.message);
    expect(lean.image.length).toBeLessThan(plover.state().image!.length);
  });
});
