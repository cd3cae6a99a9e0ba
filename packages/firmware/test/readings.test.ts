import { type BoardReadings, isMeanwhile, underway, withLine } from '@jolly/core/bringup/boardReading';
import { describe, expect, it } from 'vitest';
import { type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();

const readings = (lines: string[]): BoardReadings =>
  lines.reduce<BoardReadings>((all, line) => withLine(all, line, 0), {});

describe('state tells everything that changes by itself', () => {
  it('at rest: idle, no place, switches, both bodies', async () => {
    const { ask } = await plover.powered();
    const heard = readings(ask('state'));
    expect(Object.keys(heard).sort()).toEqual([
      'at',
      'card',
      'fan',
      'heat bed',
      'heat hotend',
      'map',
      'print',
      'servo',
      'state',
      'switch',
    ]);
    expect(heard['state']!.values['doing']).toBe('idle');
    expect(heard['at']!.values['homed']).toBe('---');
    expect(underway(heard)).toEqual([]);
  });
  it('target and place follow what was asked, and a stop', async () => {
    const { ask, bench } = await plover.powered();
    ask('M104 S200');
    bench.advance(20);
    expect(underway(readings(ask('state'))).join()).toMatch(/^hot end \d+ → 200 °C$/);
    ask('G28');
    ask('G1 X100 F9000');
    bench.advance(3);
    expect(Number(readings(ask('state'))['at']!.values['x'])).toBe(100);
    bench.send('M112');
    bench.advance(1);
    const after = readings(ask('state'));
    expect(after['state']!.values).toMatchObject({ doing: 'stopped', why: 'asked by the host' });
    expect(after['heat hotend']!.values['target']).toBe('0.0');
  });
  it('is answered while the machine moves', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28');
    bench.send('G1 X200 F1200');
    bench.advance(1);
    expect(readings(ask('state'))['state']!.values['doing']).toBe('moving');
  });
});

describe('a command that takes long tells in the meantime how things stand', () => {
  it.each([
    ['G28', 'homing'],
    ['M109 S200', 'waiting'],
  ])('%s: %s', async (command, doing) => {
    const { ask } = await plover.powered();
    const said = ask(command).filter(isMeanwhile);
    expect(said.length).toBeGreaterThan(10);
    expect(readings(said.slice(0, 5))['state']!.values['doing']).toBe(doing);
  });
  it('and says no more of it once it is done', async () => {
    const { ask, bench, heard } = await plover.powered();
    ask('G28');
    const before = heard.length;
    bench.advance(10);
    expect(heard.slice(before)).toEqual([]);
  });
});

describe('wake', () => {
  it('ends the sleep after a stop, and forgets the place', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28');
    bench.send('M112');
    bench.advance(0.5);
    expect(ask('G1 X10')[0]).toBe('error: asleep since the stop; send wake, then home');
    expect(ask('wake').at(-1)).toBe('done');
    const after = readings(ask('state'));
    expect(after['state']!.values['doing']).toBe('idle');
    expect(after['at']!.values['homed']).toBe('---');
  });
});

describe('offset', () => {
  const probe = (talk: Talk) => talk.ask('M503').find((line) => line.includes('offset'));
  it('changes only what is named, within its range', async () => {
    const talk = await plover.powered();
    expect(probe(talk)).toContain('z=-2.05');
    expect(talk.ask('offset z=-1.9').at(-1)).toBe('done');
    expect(probe(talk)).toMatch(/x=-38\.0+ y=-9\.0+ z=-1\.90/);
    expect(talk.ask('offset x=10 z=-900')[0]).toBe('error: Z must be -200.000 to 200.000, nothing changed');
    expect(probe(talk)).toMatch(/x=-38\.0+ y=-9\.0+ z=-1\.90/);
  });
  it('a word that is none changes nothing', async () => {
    const talk = await plover.powered();
    const before = probe(talk);
    for (const line of ['offsets z=1', 'offset z', 'offset z=', 'offset =1', 'offset q=1']) {
      talk.ask(line, 2);
      expect(probe(talk)).toBe(before);
    }
  });
});
