import { describe, expect, it } from 'vitest';
import { workshop } from './fixtures/builtMachine';

const plover = workshop();
const STOPPED = 'stopped: asked by the host';

describe('the emergency stop', () => {
  it.each([
    'M112',
    ' M112',
    'M112 ',
    'M112 ; now',
    'M112;now',
    'N1 M112',
    'N7M112*43',
    'M0112',
    '  N12  M112 P1',
    'm112',
  ])('is heard as "%s", and all is off', async (line) => {
    const { ask, bench, heard } = await plover.powered();
    ask('M104 S200');
    bench.send('G28');
    bench.advance(1);
    bench.send(line);
    bench.advance(0.05);
    expect(heard).toContain(STOPPED);
    const at = bench.view().position;
    bench.advance(5);
    expect(bench.view().position).toEqual(at);
    expect(bench.truth().duty).toEqual({ hotend: 0, bed: 0 });
    expect(ask('M105').find((entry) => entry.includes('hotend'))).toContain('target=0.0 duty=0.00');
  });
  it.each(['M1120', 'M11', '; M112', 'G1 X1 M112', 'xM112', 'M112.5', 'N M', 'M1 12'])(
    'is not heard in "%s"',
    async (line) => {
      const { bench, heard } = await plover.powered();
      bench.send(line);
      bench.advance(0.2);
      expect(heard).not.toContain(STOPPED);
    },
  );
  it('is heard before its line ends', async () => {
    const { bench, heard } = await plover.powered();
    bench.sendBytes(new TextEncoder().encode('M112 '));
    bench.advance(0.05);
    expect(heard).toContain(STOPPED);
    // What follows on the same line is no command.
    bench.send('G28');
    bench.advance(0.2);
    expect(heard.slice(heard.indexOf(STOPPED) + 1)).toEqual([]);
  });
  it('is heard with every buffer full', async () => {
    const { bench, heard } = await plover.powered();
    for (let i = 0; i < 12; i += 1) bench.send('G4 S50');
    bench.advance(0.2);
    bench.send('M112');
    bench.advance(0.1);
    expect(heard).toContain(STOPPED);
  });
  it('is heard behind a line that never ends, once that line ends', async () => {
    const { bench, heard } = await plover.powered();
    bench.sendBytes(new TextEncoder().encode(`G1 ${'X'.repeat(500)}\r\n`));
    bench.send('M112');
    bench.advance(0.2);
    expect(heard).toContain(STOPPED);
  });
  it('at any instant of homing: nothing moves after it', async () => {
    for (const after of [0.03, 0.4, 1.7, 6.31, 12.2, 20.05, 24.4]) {
      const { bench, heard } = await plover.powered(after * 100);
      bench.send('G28');
      bench.advance(after);
      bench.send('M112');
      bench.advance(0.02);
      expect(heard).toContain(STOPPED);
      const at = bench.view().position;
      bench.advance(3);
      expect(bench.view().position).toEqual(at);
    }
  });
  it('lets the motors go and forgets the place; wake takes it up again', async () => {
    const { ask, bench, values } = await plover.powered();
    ask('G28');
    bench.send('M112');
    bench.advance(0.1);
    expect(values('M114', 'at')['homed']).toBe('---');
    expect(ask('G1 X10')[0]).toBe('error: asleep since the stop; send wake, then home');
    expect(ask('M92 X90')[0]).toMatch(/^error: asleep/);
    expect(ask('wake').at(-1)).toBe('done');
    expect(ask('G28').at(-1)).toBe('done');
  });
  it('keeps its first reason', async () => {
    const { ask, bench } = await plover.powered();
    bench.send('M112');
    bench.advance(0.1);
    bench.change((live) => live.broken.set('bed-sensor', 'open'));
    bench.advance(5);
    expect(ask('state')[0]).toBe('state doing=stopped why="asked by the host"');
  });
});
