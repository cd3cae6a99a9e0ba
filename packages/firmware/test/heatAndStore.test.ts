import type { Facts } from '@jolly/core/machine/facts';
import { storedBytes } from '@jolly/core/kit/storedSettings';
import { describe, expect, it } from 'vitest';
import { buildFor, demoFacts, flashed, own, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

describe('heat', () => {
  it('reaches and holds a target within 2 °C', async () => {
    const { ask, bench, values } = await plover.powered();
    expect(ask('M109 S210').at(-1)).toBe('done');
    bench.advance(240);
    expect(Math.abs(bench.view().temperatureC.hotend! - 210)).toBeLessThan(2);
    expect(Number(values('M105', 'heat')['target'])).toBe(210);
  });
  it('refuses a target above the limit and heats nothing', async () => {
    const { ask, bench } = await plover.powered();
    expect(ask('M104 S280')[0]).toBe('error: target out of range');
    bench.advance(30);
    expect(bench.view().temperatureC.hotend).toBeCloseTo(21, 0);
  });
  it('the guard trips when a held bed is cooled, and not in a healthy warm-up', async () => {
    const { ask, bench, heard } = await plover.powered();
    expect(ask('M190 S60').at(-1)).toBe('done');
    bench.advance(300);
    expect(heard.some((line) => line.startsWith('stopped'))).toBe(false);
    bench.chill('bed', 8);
    bench.advance(400);
    expect(heard).toContain('stopped: bed does not follow its heater');
    expect(ask('M140 S50')[0]).toBe('error: asleep since the stop; send wake, then home');
  });
  it('without the guard nothing notices', async () => {
    const bare = await demoFacts('plover', own('guard.bed', false));
    const { ask, bench, heard } = await talkTo({
      facts: plover.facts(),
      state: flashed(plover.facts(), await buildFor(bare, plover.compiler())),
    });
    ask('M190 S60');
    bench.chill('bed', 8);
    bench.advance(600);
    expect(heard.some((line) => line.startsWith('stopped'))).toBe(false);
  });
  it('a sensor that is not there stops the machine', async () => {
    const loose = {
      ...plover.facts(),
      parts: plover.facts().parts.filter((part) => part.id !== 'bed-sensor'),
    };
    const { heard, bench } = await talkTo({ facts: loose, state: plover.state() });
    bench.advance(5);
    expect(heard).toContain('stopped: bed sensor open or too cold');
  });
  it('on-off control swings wider than PID', async () => {
    const swing = async (built: Facts) => {
      const { ask, bench } = await talkTo({
        facts: plover.facts(),
        state: flashed(plover.facts(), await buildFor(built, plover.compiler())),
      });
      ask('M109 S200');
      bench.advance(200);
      const seen: number[] = [];
      for (let i = 0; i < 600; i += 1) {
        bench.advance(0.1);
        seen.push(bench.view().temperatureC.hotend!);
      }
      return Math.max(...seen) - Math.min(...seen);
    };
    expect(await swing(await demoFacts('plover', own('control.hotend', 'on-off')))).toBeGreaterThan(
      2 * (await swing(plover.facts())),
    );
  });
});

describe('stored settings', () => {
  it('survive power-off only when stored', async () => {
    const first = await plover.powered();
    first.ask('M92 X123.5');
    const unstored = await talkTo({
      facts: plover.facts(),
      state: { ...plover.state(), store: first.bench.store() },
    });
    expect(unstored.ask('M503')[0]).toContain('X100.0000');
    first.ask('M500');
    const again = await talkTo({
      facts: plover.facts(),
      state: { ...plover.state(), store: first.bench.store() },
    });
    expect(again.heard[0]).toBe('awake store=loaded');
    expect(again.ask('M503')[0]).toContain('X123.5000');
    again.ask('M502');
    expect(again.ask('M503')[0]).toContain('X100.0000');
  });
  it('take as many bytes as the kit says', async () => {
    const first = await plover.powered();
    first.ask('M500');
    first.ask('M500');
    const bytes = first.bench.store();
    const last = bytes.findLastIndex((byte) => byte !== 0xff);
    expect(last + 1).toBe(storedBytes(plover.facts().kit));
  });
  it('a damaged store is not used', async () => {
    const first = await plover.powered();
    first.ask('M500');
    const store = first.bench.store();
    store[20]! ^= 0x40;
    expect((await talkTo({ facts: plover.facts(), state: { ...plover.state(), store } })).heard[0]).toBe(
      'awake store=damaged',
    );
  });
  it('every line of the report can be sent back', async () => {
    const { ask } = await plover.powered();
    const report = ask('M503').filter((line) => line.startsWith('setting '));
    expect(report).toHaveLength(8);
    for (const line of report) expect(ask(line.replace('setting ', '')).at(-1)).toBe('done');
    expect(ask('M503').filter((line) => line.startsWith('setting '))).toEqual(report);
  });
});
