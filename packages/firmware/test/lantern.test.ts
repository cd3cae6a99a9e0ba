import fc from 'fast-check';
import { blankBoard, powerOn, stackRun } from '@jolly/bench';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

describe('identity', () => {
  it('reports the name, build and volume of the image that runs', async () => {
    const { ask, bench } = await plover.powered();
    const lines = ask('M115');
    const header = 'header' in bench.running ? bench.running.header : undefined;
    expect(lines).toContain(`lantern name="Plover" kit=0.1.0 target=alder-a32-1-1 build=${header?.buildId}`);
    expect(lines).toContain(
      'volume x=-6.0..236.0 y=-2.0..212.0 z=0.0..245.0 plate-x=0.0..230.0 plate-y=0.0..210.0',
    );
  });
  it('a changed reply in the C changes what is read', async () => {
    const outcome = await buildFor(plover.facts(), plover.compiler(), (name, text) =>
      name === 'core/identity.c' ? text.replace('print("volume")', 'print("space")') : text,
    );
    const { ask } = await talkTo({ facts: plover.facts(), state: flashed(plover.facts(), outcome) });
    expect(ask('M115').some((line) => line.startsWith('space x='))).toBe(true);
  });
});

describe('homing', () => {
  it.each(['plover', 'bittern', 'dunlin'])('%s finds all axes and stands where it says', async (id) => {
    const mine = await demoFacts(id);
    for (const seed of [1, 7, 42]) {
      const { ask, values, bench } = await talkTo({
        facts: mine,
        state: flashed(mine, await buildFor(mine, plover.compiler())),
        seed,
      });
      expect(ask('G28').at(-1)).toBe('done');
      const at = values('M114', 'at');
      expect(at['homed']).toBe('xyz');
      const truth = bench.view();
      for (const axis of ['x', 'y', 'z'] as const)
        expect(Math.abs(Number(at[axis]) - truth.position[axis])).toBeLessThan(0.25);
      expect(truth.blocked).toEqual({ x: 0, y: 0, z: 0 });
      expect(truth.nozzleInPlateMm).toBeLessThan(0.25);
    }
  });
  it('with a reversed motor meets the frame and stops everything', async () => {
    const wrong = await demoFacts('plover', own('direction.x', true));
    const reversed = flashed(plover.facts(), await buildFor(wrong, plover.compiler()));
    const { ask, bench } = await talkTo({ facts: plover.facts(), state: reversed });
    expect(ask('G28').at(-1)).toBe('stopped: X homing did not meet its switch');
    expect(bench.view().blocked.x).toBeGreaterThan(0);
  });
  it('refuses Z before X and Y when the probe finds it', async () => {
    const { ask } = await plover.powered();
    expect(ask('G28 Z')[0]).toMatch(/^error: home X and Y before Z/);
  });
  it('with a probe that never triggers rams the plate once, then stops everything', async () => {
    const { ask, bench } = await plover.powered();
    bench.change((live) => live.neverTriggers.add('probe'));
    ask('M104 S100');
    expect(ask('G28').at(-1)).toBe('stopped: Z homing did not meet the plate');
    expect(bench.view().nozzleInPlateMm).toBeGreaterThan(1);
    expect(ask('M105').find((line) => line.includes('hotend'))).toContain('target=0.0');
  });
  it('with a switch that is never met stops everything', async () => {
    const { ask } = await talkTo({
      facts: {
        ...plover.facts(),
        machine: { ...plover.facts().machine, frame: { ...plover.facts().machine.frame, switch_at: {} } },
      },
      state: plover.state(),
    });
    expect(ask('G28').at(-1)).toBe('stopped: X homing did not meet its switch');
  });
});

describe('moves', () => {
  it('refuses more than a nudge before homing, and anything outside the travel after', async () => {
    const { ask, values } = await plover.powered();
    expect(ask('G1 X50')[0]).toBe('error: axis not homed, only moves of 10 mm or less');
    ask('G28');
    const before = values('M114', 'at');
    expect(ask('G1 X236.5')[0]).toBe('error: outside the travel');
    expect(ask('G1 Z-1')[0]).toBe('error: outside the travel');
    expect(values('M114', 'at')).toEqual(before);
  });
  it('ends exactly where asked, motors and machine agreeing', async () => {
    const { ask, values, bench } = await plover.powered();
    ask('G28');
    const from = bench.view().position;
    const at = values('M114', 'at');
    ask('G1 X100 Y60 Z30 F6000');
    ask('M400');
    expect(values('M114', 'at')).toMatchObject({ x: '100.000', y: '60.000', z: '30.000' });
    expect(bench.view().position.x - from.x).toBeCloseTo(100 - Number(at['x']), 2);
    expect(bench.view().position.y - from.y).toBeCloseTo(60 - Number(at['y']), 2);
  });
  it('steps come when the trapezoid says: 100 mm at 100 mm/s and 1200 mm/s² take 1.083 s', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28 X');
    ask('G1 X20 F6000');
    ask('M400');
    const from = bench.nowS();
    bench.send('G1 X120 F6000');
    bench.send('M400');
    while (bench.view().position.x < 119.99) bench.advance(0.001);
    // The line itself takes 1.2 ms on the wire, and the first move waits 20 ms for others.
    expect(bench.nowS() - from).toBeGreaterThan(1.08);
    expect(bench.nowS() - from).toBeLessThan(1.11);
  });
  it('carries the settings it was built with', async () => {
    const reversed = await demoFacts('plover', own('steps.x', 200));
    const { ask, bench } = await talkTo({
      facts: plover.facts(),
      state: flashed(plover.facts(), await buildFor(reversed, plover.compiler())),
    });
    ask('G91');
    const from = bench.view().position.x;
    ask('G1 X5 F1200');
    ask('M400');
    expect(bench.view().position.x - from).toBeCloseTo(10, 1);
  });
});

describe('the emergency stop', () => {
  it('is heard in the middle of homing and leaves everything off', async () => {
    const { ask, bench, heard } = await plover.powered();
    ask('M104 S200');
    bench.send('G28');
    bench.advance(1);
    bench.send('M112');
    bench.advance(0.05);
    expect(heard).toContain('stopped: asked by the host');
    const at = bench.view().position;
    bench.advance(5);
    expect(bench.view().position).toEqual(at);
    expect(ask('M105').find((line) => line.includes('hotend'))).toContain('target=0.0 duty=0.00');
  });
  it('is heard with every buffer full', async () => {
    const { bench, heard } = await plover.powered();
    for (let i = 0; i < 12; i += 1) bench.send('G4 S50');
    bench.advance(0.2);
    bench.send('M112');
    bench.advance(0.1);
    expect(heard).toContain('stopped: asked by the host');
  });
});

describe('waiting', () => {
  it.each([
    ['G4 P500', 0.5],
    ['G4 S2', 2],
    ['G4 S1 P250', 1.25],
    ['G4', 0],
  ])('%s takes %d s', async (line, seconds) => {
    const { ask, bench } = await plover.powered();
    const from = bench.nowS();
    expect(ask(line).at(-1)).toBe('done');
    expect(bench.nowS() - from).toBeGreaterThan(seconds - 0.001);
    expect(bench.nowS() - from).toBeLessThan(seconds + 0.01);
  });
  it.each(['G4 S61', 'G4 P-1'])('%s is refused', async (line) => {
    const { ask } = await plover.powered();
    expect(ask(line).at(-1)).toBe('error: dwell must be 0 to 60 s');
  });
  it('M400 and G4 begin when nothing moves any more', async () => {
    const { ask, bench } = await plover.powered();
    ask('G91');
    for (const line of ['M400', 'G4 P0']) {
      ask('G1 X9 F120');
      ask('G1 X-9');
      ask(line);
      const at = bench.view().position.x;
      bench.advance(1);
      expect(bench.view().position.x).toBe(at);
    }
  });
});

describe('bad input', () => {
  it.each([
    'hello',
    'G',
    'G1 X',
    'G1 X1e5',
    'G1 X--3',
    'G1 Xabc',
    'M9999',
    'G1 F0',
    'T0',
    `G1 ${'X1 '.repeat(60)}`,
  ])('"%s" gets an error or nothing, and never moves anything', async (line) => {
    const { ask, bench } = await plover.powered();
    const before = bench.view().position;
    ask(line, 2);
    bench.advance(2);
    if (line !== 'G1 X') expect(bench.view().position).toEqual(before);
  });
  it('any bytes are survived; the next question is answered', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.string({ unit: 'binary', maxLength: 120 }), { maxLength: 8 }),
        async (lines) => {
          const { bench, ask, heard } = await plover.powered();
          for (const line of lines) bench.send(line);
          bench.advance(2);
          bench.send('');
          ask('wake');
          expect(heard.some((line) => line.includes('the board hangs'))).toBe(false);
          expect(ask('M114').some((line) => line.startsWith('at x='))).toBe(true);
        },
      ),
      { numRuns: 25 },
    );
  });
});

describe('the run', () => {
  it('is the same for the same seed and inputs', async () => {
    const run = async () => {
      const { ask, bench, heard } = await plover.powered(5);
      ask('G28');
      return [bench.nowS(), bench.view(), heard];
    };
    expect(await run()).toEqual(await run());
  });
  it('uses less stack than is kept for it', async () => {
    const { ask, bench } = await plover.powered();
    ask('M503');
    ask('G28');
    expect(bench.stackUsed()).toBeGreaterThan(0);
    expect(bench.stackUsed()).toBeLessThan(plover.facts().kit.stack_bytes / 2);
  });
  it('through what takes much of the stack, tells how deep that went and what was done', async () => {
    const { image } = plover.state();
    const run = await stackRun(plover.facts(), certain(image ?? undefined, 'the image'));
    // Arcs are off, and nobody has put a card in: neither is said to have been done.
    expect(run.did).toEqual(['booted', 'told its settings', 'homed', 'took a map', 'moved', 'heated']);
    expect(run.reservedBytes).toBe(plover.facts().kit.stack_bytes);
    expect(run.usedBytes).toBeGreaterThan(100);
    expect(run.usedBytes).toBeLessThan(run.reservedBytes);
  });
  it('at the wrong baud host and board hear rubbish', async () => {
    const heard: string[] = [];
    const bench = await powerOn({
      facts: plover.facts(),
      state: plover.state(),
      hostBaud: 57600,
      onLine: (line) => void heard.push(line),
    });
    bench.advance(1);
    expect(heard.join('')).not.toContain('lantern');
    const cold = bench.view().temperatureC;
    bench.send('M104 S200');
    bench.advance(30);
    expect(bench.view().temperatureC).toEqual(cold);
  });
  it('a board with nothing flashed is silent', async () => {
    const bench = await powerOn({ facts: plover.facts(), state: blankBoard(plover.facts().chip) });
    bench.advance(1);
    expect(bench.running).toMatchObject({ silent: 'the flash is empty' });
    expect(Object.values(bench.view().servos)).toEqual([0]);
  });
});
