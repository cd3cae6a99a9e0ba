import { describe, expect, it } from 'vitest';
import { own, workshop } from './fixtures/builtMachine';
import { DISPLAY } from './witnesses/witness';

const plover = workshop();
const bittern = workshop('bittern');
const none = { x: 0, y: 0, z: 0 };

describe('every travel obeys the limits', () => {
  it('another count of steps forgets the place instead of telling a wrong one', async () => {
    const { ask, bench, values } = await plover.powered();
    ask('G28');
    ask('G1 X60 F6000');
    ask('M400');
    ask('M92 X431.5');
    expect(values('M114', 'at')['homed']).toBe('-yz');
    expect(ask('G1 X200 F6000')[0]).toBe('error: axis not homed, only moves of 10 mm or less');
    ask('M502');
    expect(values('M114', 'at')['homed']).toBe('-yz');
    expect(ask('G28 X').at(-1)).toBe('done');
    expect(Number(values('M114', 'at')['x'])).toBeCloseTo(bench.view().position.x, 0);
    expect(bench.view().blocked).toEqual(none);
  });
  it.each([
    ['plover, Y', plover, 'M92 Y90', 'x-z'],
    ['plover, E', plover, 'M92 E90', 'xyz'],
    ['bittern, Y: its belts each move both axes', bittern, 'M92 Y90', '--z'],
    ['bittern, E', bittern, 'M92 E90', 'xyz'],
  ])('other steps forget the axes that they move, and no other: %s', async (_name, machine, line, homed) => {
    const { ask, values } = await machine.powered();
    ask('G28');
    expect(ask(line).at(-1)).toBe('done');
    expect(values('M114', 'at')['homed']).toBe(homed);
  });
  it.each(['M502', 'M501', 'M92 X90', 'offset z=-1', 'M84', 'G28 X'])(
    '%s waits until nothing moves',
    async (line) => {
      const { ask, bench } = await plover.powered();
      ask('G28');
      bench.send('G1 X200 F1200');
      bench.advance(0.5);
      ask(line);
      expect(bench.nowS()).toBeGreaterThan(27);
      const x = bench.view().position.x;
      expect(line === 'G28 X' ? x : Math.abs(x - 200)).toBeLessThan(0.1);
    },
  );
  it("a probe's height moves what it has found, by as much", async () => {
    const { ask, values, bench } = await plover.powered();
    ask('G28');
    const before = Number(values('M114', 'at')['z']);
    const truly = bench.view().position.z;
    ask('offset z=-1.05');
    expect(Number(values('M114', 'at')['z'])).toBeCloseTo(before - 1, 2);
    expect(bench.view().position.z).toBe(truly);
    expect(values('M114', 'at')['homed']).toBe('xyz');
  });
  it('an offset that puts the nozzle outside its travel over the home spot is refused before anything moves', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28 X Y');
    ask('offset x=-190');
    const at = bench.view().position;
    expect(ask('G28 Z')[0]).toMatch(/^error: with this probe offset the nozzle would leave its travel/);
    expect(bench.view().position).toEqual(at);
    expect(bench.view().blocked).toEqual(none);
  });
  it('refuses what is outside by more than a thousandth, at both ends of every axis', async () => {
    const { ask } = await plover.powered();
    ask('G28');
    const ends: [string, number, number][] = [['X', -6, 236], ['Y', -2, 212], ['Z', 0, 245]]; // prettier-ignore
    for (const [letter, low, high] of ends) {
      expect(ask(`G1 ${letter}${low - 0.01}`)[0]).toBe('error: outside the travel');
      expect(ask(`G1 ${letter}${high + 0.01}`)[0]).toBe('error: outside the travel');
    }
    for (const line of ['G1 X236 F9000', 'G1 X-6', 'G1 Y212', 'G1 Y-2']) expect(ask(line)[0]).toBe('done');
    expect(ask('M400').at(-1)).toBe('done');
  });
  it('a move is refused whole', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28');
    const at = bench.view().position;
    expect(ask('G1 X100 Y999 Z5')[0]).toBe('error: outside the travel');
    expect(ask('G91')[0]).toBe('done');
    expect(ask('G1 X1 Y999')[0]).toBe('error: outside the travel');
    bench.advance(2);
    expect(bench.view().position).toEqual(at);
  });
  it('motors that are let go are no longer homed', async () => {
    const { ask, values } = await plover.powered();
    ask('G28');
    expect(ask('M84').at(-1)).toBe('done');
    expect(values('M114', 'at')['homed']).toBe('---');
  });
});

describe('filament', () => {
  it('is given to no cold hot end, alone or on the way', async () => {
    const { ask, bench } = await plover.powered();
    ask('G28');
    const at = bench.view().position;
    expect(ask('G1 E5 F300')[0]).toBe('error: the hot end is too cold to extrude');
    expect(ask('G1 X100 E5')[0]).toBe('error: the hot end is too cold to extrude');
    bench.advance(2);
    expect(bench.view().position).toEqual(at);
    ask('M109 S200');
    expect(ask('G1 E5 F300')[0]).toBe('done');
  });
  it('extrude.from decides how cold', async () => {
    const { ask } = await plover.builtWith(own('extrude.from', 0));
    expect(ask('G1 E5 F300')[0]).toBe('done');
  });
  it('not more than 200 mm at once', async () => {
    const { ask } = await plover.builtWith(own('extrude.from', 0));
    expect(ask('G1 E201')[0]).toBe('error: more than 200 mm of filament in one move');
  });
});

describe('a move by hand in the middle of a print', () => {
  const began = async (...edits: Parameters<typeof plover.changed>) => {
    const talk = await plover.changed(own('extrude.from', 0), ...edits);
    for (const line of ['G28', 'G90', 'M83', 'G1 X100 Y100 Z10 F3000', 'M400']) talk.ask(line);
    return talk;
  };
  /** What follows is made as the print meant it: absolute, filament relative, at 50 mm/s. */
  const goesOn = ({ ask, bench }: Awaited<ReturnType<typeof began>>) => {
    const from = bench.nowS();
    const { e } = bench.truth().position;
    for (const line of ['G1 X150 E0.5', 'M400']) expect(ask(line).at(-1)).toBe('done');
    expect(bench.nowS() - from).toBeLessThan(3);
    expect(bench.truth().position.x).toBeCloseTo(150, 1);
    expect(bench.truth().position.e - e).toBeCloseTo(0.5, 2);
  };
  it('leaves its modes and its feed as they were, and obeys the limits', async () => {
    const talk = await began();
    const { x, z } = talk.bench.truth().position;
    talk.ask('move by x=-20 z=10 f=600');
    talk.ask('M400');
    expect(talk.bench.truth().position.x - x).toBeCloseTo(-20, 1);
    expect(talk.bench.truth().position.z - z).toBeCloseTo(10, 1);
    expect(talk.ask('move by x=-90')).toEqual(['error: outside the travel']);
    goesOn(talk);
  });
  it('lifts from the display, also while it is paused; what belongs to the print is refused there then', async () => {
    const talk = await began(...DISPLAY('slate-20'));
    /** Behind what leads back, print, pause, resume and heat: the row of the list that moves, counted so. */
    const chosen = (row: number) => {
      const { z } = talk.bench.truth().position;
      for (const steps of [0, 5, 0, row, 0]) {
        if (steps === 0) talk.bench.press();
        else talk.bench.turn(steps);
        talk.bench.advance(0.5);
      }
      talk.bench.advance(12);
      // Back to the status, for the next time.
      for (const steps of [-9, 0, -9, 0]) {
        if (steps === 0) talk.bench.press();
        else talk.bench.turn(steps);
        talk.bench.advance(0.5);
      }
      return talk.bench.truth().position.z - z;
    };
    expect(chosen(2)).toBeCloseTo(10, 1);
    goesOn(talk);
    talk.ask('pause');
    talk.bench.advance(20);
    expect(chosen(2)).toBeCloseTo(10, 1);
    expect(chosen(1)).toBe(0);
    expect(talk.heard.at(-1)).toBe('refused panel: a print is under way');
    talk.ask('resume');
    talk.bench.advance(20);
    expect(talk.values('state', 'print')['paused']).toBe('no');
    goesOn(talk);
  });
});
