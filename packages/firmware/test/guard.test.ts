import { describe, expect, it } from 'vitest';
import { type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();

/** Seconds until everything stopped, or undefined when it did not. */
function stopsWithin(talk: Talk, seconds: number): number | undefined {
  const from = talk.bench.nowS();
  let seen = 0;
  const stopped = () => {
    while (seen < talk.heard.length) if (talk.heard[seen++]?.startsWith('stopped')) return true;
    return false;
  };
  return talk.bench.advanceUntil(stopped, seconds) ? talk.bench.nowS() - from : undefined;
}
const reason = ({ heard }: Talk) => heard.find((line) => line.startsWith('stopped'));

describe('the fan of the hot end', () => {
  it('goes on by warmth, and also while its sensor reads open: it may be hot', async () => {
    const talk = await plover.powered();
    const turns = () => talk.bench.truth().fans['hotend-fan'];
    talk.bench.advance(5);
    expect(turns()).toBe(0);
    talk.ask('M104 S180');
    talk.bench.advance(100);
    expect(turns()).toBe(1);
    talk.bench.change((live) => void live.broken.set('hotend-sensor', 'open'));
    talk.bench.advance(10);
    expect(reason(talk)).toBe('stopped: hotend sensor open or too cold');
    expect([turns(), talk.values('state', 'fan')['hotend']]).toEqual([1, '1.00']);
    talk.bench.change((live) => void live.broken.delete('hotend-sensor'));
    talk.bench.advance(3000);
    expect(turns()).toBe(0);
  });
});

describe('the thermal guard follows heater and temperature, not commands', () => {
  it('a target sent again every 10 s does not start it anew', async () => {
    const talk = await plover.powered();
    talk.bench.change((live) => live.slipped.add('hotend-sensor'));
    let passed = 0;
    for (; passed < 600 && !reason(talk); passed += 10) {
      talk.ask('M104 S200');
      talk.bench.advance(10);
    }
    expect(reason(talk)).toBe('stopped: hotend does not follow its heater');
    expect(passed).toBeLessThan(400);
  });
  it('nor do targets that change by turns', async () => {
    const talk = await plover.powered();
    talk.bench.change((live) => live.slipped.add('hotend-sensor'));
    let passed = 0;
    for (; passed < 900 && !reason(talk); passed += 20) {
      talk.ask(`M104 S${passed % 40 === 0 ? 200 : 24}`);
      talk.bench.advance(10);
      talk.ask(`M104 S${190 + (passed % 9)}`);
      talk.bench.advance(10);
    }
    expect(reason(talk)).toBe('stopped: hotend does not follow its heater');
  });
  it('a raised target does not hide that the body has cooled', async () => {
    const talk = await plover.powered();
    talk.ask('M190 S60');
    talk.bench.advance(200);
    talk.bench.change((live) => live.slipped.add('bed-sensor'));
    for (let target = 61; target < 90 && !reason(talk); target += 1) {
      talk.ask(`M140 S${target}`);
      talk.bench.advance(10);
    }
    expect(reason(talk)).toBe('stopped: bed does not follow its heater');
  });
  it('a healthy machine never trips it: warm up, hold, raise, lower, print, cool', async () => {
    const talk = await plover.powered();
    for (const line of [
      'M190 S60',
      'M109 S210',
      'M104 S240',
      'M109 S240',
      'M109 S180',
      'M140 S90',
      'M190 S90',
    ]) {
      expect(talk.ask(line, 2000).at(-1)).toBe('done');
      talk.bench.advance(300);
    }
    talk.ask('M104 S0');
    talk.ask('M140 S0');
    expect(stopsWithin(talk, 1200)).toBeUndefined();
    expect(talk.ask('M109 S200', 2000).at(-1)).toBe('done');
    expect(stopsWithin(talk, 1200)).toBeUndefined();
  });
});

describe('every fault of heat stops everything within its time, and says what it is', () => {
  const cases: [string, (talk: Talk) => void, string, number][] = [
    ['a sensor with an open wire', ({ bench }) => bench.change((live) => live.broken.set('hotend-sensor', 'open')), 'stopped: hotend sensor open or too cold', 4],
    ['a sensor with a short', ({ bench }) => bench.change((live) => live.broken.set('bed-sensor', 'short')), 'stopped: bed too hot or sensor shorted', 4],
    ['a sensor that slips out while holding', ({ bench }) => bench.change((live) => live.slipped.add('hotend-sensor')), 'stopped: hotend does not follow its heater', 120],
    ['a body that is cooled', ({ bench }) => bench.change((live) => live.chilled.set('bed', 9)), 'stopped: bed does not follow its heater', 300],
    ['a heater that stays on', ({ bench }) => bench.change((live) => live.stuckOn.add('hotend-heater')), 'stopped: hotend too hot or sensor shorted', 400],
    ['a heater whose wire came off', ({ bench }) => bench.change((live) => live.leads.set('hotend-heater', {})), 'stopped: hotend does not follow its heater', 200],
  ]; // prettier-ignore
  it.each(cases)('%s', async (_, lay, says, within) => {
    const talk = await plover.powered();
    talk.ask('M140 S60');
    expect(talk.ask('M109 S200', 2000).at(-1)).toBe('done');
    expect(talk.ask('M190 S60', 2000).at(-1)).toBe('done');
    talk.bench.advance(120);
    lay(talk);
    const took = stopsWithin(talk, within + 1);
    expect(reason(talk)).toBe(says);
    expect(took).toBeLessThan(within);
    expect(talk.bench.truth().duty.bed).toBe(0);
  });
  it('heaters that are exchanged: the one asked for does not warm', async () => {
    const talk = await plover.powered();
    talk.bench.change(({ leads }) => {
      const [hotend, bed] = [leads.get('hotend-heater')!, leads.get('bed-heater')!];
      leads.set('hotend-heater', bed);
      leads.set('bed-heater', hotend);
    });
    talk.ask('M104 S200');
    expect(stopsWithin(talk, 300)).toBeGreaterThan(10);
    expect(reason(talk)).toBe('stopped: hotend does not follow its heater');
  });
});
