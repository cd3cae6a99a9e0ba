import { blankBoard, powerOn } from '@jolly/bench';
import { describe, expect, it } from 'vitest';
import { buildFor, flashed, own, talkTo, workshop } from './fixtures/builtMachine';

const plover = workshop();

/** Plover built with something else in its C. */
async function spoilt(file: string, was: string, becomes: string) {
  const outcome = await buildFor(plover.facts(), plover.compiler(), (name, text) => {
    if (name !== file) return text;
    if (!text.includes(was)) throw new Error(`${file} has no "${was}"`);
    return text.replace(was, becomes);
  });
  return talkTo({ facts: plover.facts(), state: flashed(plover.facts(), outcome) });
}

describe('the chip', () => {
  it('a loop without an end is ended by the watchdog, and the bench goes on', async () => {
    const { bench, notices } = await spoilt(
      'motion/moves.c',
      'static enum outcome absolute_on(const struct words *w) { (void)w;',
      'static enum outcome absolute_on(const struct words *w) { (void)w; for (volatile int on = 1; on;) {}',
    );
    bench.send('G90');
    bench.advance(5);
    expect(notices).toEqual([expect.stringContaining('did not come back within 2 s')]);
    expect(bench.nowS()).toBeGreaterThan(5);
  });
  it('a loop without an end at power-on too', async () => {
    const { notices } = await spoilt(
      'core/start.c',
      '    settings_reset();',
      '    for (volatile int on = 1; on;) {}\n    settings_reset();',
    );
    expect(notices).toHaveLength(1);
  });
  it('a watchdog that nobody feeds ends it', async () => {
    const { bench, notices } = await spoilt('core/start.c', '    hw_watchdog();\n', '');
    bench.advance(3);
    expect(notices).toEqual([expect.stringContaining('its watchdog was not fed')]);
  });
  it('one that is too slow for its work says so, and one that is not does not', async () => {
    const noticed = async (clock_hz: number) => {
      const facts = { ...plover.facts(), chip: { ...plover.facts().chip, word_bits: 8 as const, clock_hz } };
      const talk = await talkTo({ facts, state: { ...plover.state(), namesTaken: [] } });
      talk.ask('G28 X', 60);
      return talk.notices.join();
    };
    expect(await noticed(300_000)).toContain('the chip cannot keep up');
    expect(await noticed(96_000_000)).toBe('');
  });
  it('8 bits cost more of its time than 32', async () => {
    const load = async (word_bits: 8 | 32) => {
      const facts = { ...plover.facts(), chip: { ...plover.facts().chip, word_bits } };
      const { ask, bench } = await talkTo({ facts, state: plover.state() });
      ask('G28 X');
      return bench.load();
    };
    // Plain instructions take it twice as long, floats four times; pulses cost both the same.
    expect(await load(8)).toBeGreaterThan(2 * (await load(32)));
  });
  it('steps faster than it can make them take longer', async () => {
    const seconds = async (step_rate_hz: number) => {
      const facts = { ...plover.facts(), chip: { ...plover.facts().chip, step_rate_hz } };
      const talk = await talkTo({ facts, state: plover.state() });
      talk.ask('G91');
      const from = talk.bench.nowS();
      talk.ask('G1 X9 F12000');
      talk.ask('M400');
      return talk.bench.nowS() - from;
    };
    expect(await seconds(2000)).toBeGreaterThan(2 * (await seconds(200_000)));
  });
  it('an image that is no code is refused in words, and the power-on ends', async () => {
    const state = { ...blankBoard(plover.facts().chip), image: new Uint8Array(200) };
    const bench = await powerOn({ facts: plover.facts(), state });
    expect(bench.running).toMatchObject({ silent: expect.stringContaining('no usable image') as string });
  });
  it('sends no faster than its line: long reports take their time', async () => {
    const { ask, bench } = await plover.builtWith(own('link.baud', 9600));
    bench.advance(1);
    const from = bench.nowS();
    const report = ask('M503').join('\n');
    expect(bench.nowS() - from).toBeGreaterThan((report.length * 10) / 9600);
  });
});
