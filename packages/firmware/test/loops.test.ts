import type { Edit } from '@jolly/core/machine/edit';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { own, type Talk, workshop } from './fixtures/builtMachine';

const plover = workshop();
const COLD = own('extrude.from', 0);

/** The highest a body gets and how far it strays in the last part, while it is held at a target. */
function held({ bench }: Talk, body: 'hotend' | 'bed', seconds: number): { most: number; strays: number } {
  let most = 0;
  const late: number[] = [];
  for (let passed = 0; passed < seconds; passed += 1) {
    bench.advance(1);
    const c = bench.truth().temperatureC[body] ?? 0;
    most = Math.max(most, c);
    if (passed > seconds * 0.7) late.push(c);
  }
  return { most, strays: Math.max(...late) - Math.min(...late) };
}

describe('heat, as a closed loop on the plant', () => {
  it('a bed settles within 1 °C of its target', async () => {
    const talk = await plover.powered();
    talk.ask('M140 S60');
    const { strays } = held(talk, 'bed', 1500);
    expect(strays).toBeLessThan(1);
    expect(Math.abs((talk.bench.truth().temperatureC.bed ?? 0) - 60)).toBeLessThan(1);
  });
  it.each([
    ['hotend', 'tune h=0 c=200', 'M104 S200', 600],
    ['bed', 'tune h=1 c=60', 'M140 S60', 2500],
  ] as const)(
    'the self-tune of the %s leaves less than 3 °C of overshoot',
    async (body, tune, set, seconds) => {
      const talk = await plover.powered();
      expect(talk.ask(tune, 7000).at(-1)).toBe('done');
      expect(talk.heard.filter((line) => line.startsWith('tune swing'))).toHaveLength(5);
      expect(talk.heard.some((line) => line.startsWith('tuned p='))).toBe(true);
      talk.bench.advance(3000);
      talk.ask(set);
      const { most, strays } = held(talk, body, seconds);
      expect(most).toBeLessThan((body === 'hotend' ? 200 : 60) + 3);
      expect(strays).toBeLessThan(1);
    },
  );
  it('a heater that swings nothing is told, and its guard sees it first where it is on', async () => {
    const talk = await plover.powered();
    talk.bench.change((live) => live.slipped.add('hotend-sensor'));
    talk.ask('tune h=0 c=200', 7000);
    expect(talk.heard).toContain('stopped: hotend does not follow its heater');
    expect(talk.bench.truth().duty.hotend).toBe(0);
  });
  it('the hot-end fan runs while it is hot, a stop or not', async () => {
    const talk = await plover.powered();
    talk.ask('M109 S100');
    expect(talk.bench.truth().fans['hotend-fan']).toBe(1);
    talk.bench.send('M112');
    talk.bench.advance(1);
    expect(talk.bench.truth().fans['hotend-fan']).toBe(1);
    talk.bench.advance(900);
    expect(talk.bench.truth().fans['hotend-fan']).toBe(0);
  });
});

/** X without a switch, on a module that reports a stall over a line that is tied. */
const STALLING: Edit[] = [
  { path: ['harness', 'x-switch'] },
  { path: ['jumpers'], value: { 'STALL-M1': 'bridged' } },
  own('stall.x', true),
];

describe('drivers that are told', () => {
  it('stall homing ends at the same place within 0.2 mm, hard against the frame or not', async () => {
    const ends: number[] = [];
    for (const from of ['G1 X0', 'G1 X40', 'G1 X120', 'G1 X200']) {
      const talk = await plover.changed(...STALLING);
      talk.ask('G28 X');
      talk.ask(`${from} F6000`);
      talk.ask('M400');
      talk.ask('G28 X');
      ends.push(talk.bench.truth().position.x);
    }
    expect(Math.max(...ends) - Math.min(...ends)).toBeLessThan(0.2);
  });
  it('an axis that has its switch touches it twice, whatever homes by stall beside it', async () => {
    const took = async (...edits: Edit[]) => {
      const { ask, bench } = await plover.changed(...edits);
      const from = bench.nowS();
      ask('G28 Y');
      return bench.nowS() - from;
    };
    expect(await took(...STALLING)).toBeCloseTo(await took(), 1);
  });
  it('a current that is changed is given at once, and after the steps are', async () => {
    const talk = await plover.powered();
    talk.ask('current x=0.5');
    expect(talk.bench.truth().drivers.x?.amps).toBeCloseTo(0.5, 2);
    expect(talk.ask('current x=9')[0]).toBe('error: X must be 0.05 to 6.00, nothing changed');
    expect(talk.bench.truth().drivers.x?.amps).toBeCloseTo(0.5, 2);
  });
  it('a module whose jumper sets it apart hears nothing, and is told as silent', async () => {
    const talk = await plover.changed(
      { path: ['jumpers'], value: { 'MODE-M1': 'open' } },
      own('driver.report', true),
    );
    talk.bench.advance(2);
    const told = talk.ask('state').filter((line) => line.startsWith('driver'));
    expect(told[0]).toBe('driver axis=x state=silent');
    expect(told[1]).toMatch(/^driver axis=y state=well amps=0\.84 degrees=\d+$/);
    expect(talk.bench.truth().drivers.x?.amps).toBeCloseTo(0.6, 2);
  });
  it.each([
    ['without reports it is told as the motors are let in', false],
    ['with reports it is told as it answers again', true],
  ])('a module that was without supply has forgotten what it was told; %s', async (_, report) => {
    const talk = await plover.builtWith(own('driver.report', report), own('torque.x', 'by-speed'));
    const told = () => {
      const { amps, fullForceFrom } = certain(talk.bench.truth().drivers.x, 'its driver');
      return { amps, fullForceFrom };
    };
    const before = told();
    talk.ask('G91');
    if (report) talk.ask('G1 X1');
    talk.bench.change((live) => void (live.supplyOff = true));
    talk.bench.advance(1);
    talk.bench.change((live) => void (live.supplyOff = false));
    expect(told().amps).not.toBeCloseTo(before.amps, 3);
    expect(told().fullForceFrom).not.toBe(before.fullForceFrom);
    talk.bench.advance(1);
    if (!report) talk.ask('G1 X1');
    talk.bench.advance(0.1);
    expect(told()).toEqual(before);
  });
  it('a module that shuts down stops everything, with a report; without one it says nothing', async () => {
    for (const report of [true, false]) {
      const talk = await plover.builtWith(own('driver.report', report));
      talk.bench.change((live) => void live.motorAmps.set('x', 1.9));
      talk.ask('G28 X');
      talk.bench.advance(400);
      expect(talk.heard.includes('stopped: X its driver has shut down')).toBe(report);
    }
  });
});

describe('extrusion lead', () => {
  /** How much comes out of the nozzle within 2 mm of a corner, against what two mm of line are made of. */
  async function bulge(...edits: Edit[]): Promise<number> {
    const talk = await plover.builtWith(COLD, own('corner.by', 'jolt'), ...edits);
    talk.bench.change((live) => void live.warmed.set('hotend', 210));
    for (const line of ['G28', 'G1 X20 Y100 Z5 F9000', 'G92 E0', 'M83', 'M400']) talk.ask(line);
    talk.bench.send('G1 X120 E4 F6000');
    talk.bench.send('G1 Y180 E3.2');
    let before = 0;
    let around = 0;
    for (let passed = 0; passed < 3; passed += 0.002) {
      talk.bench.advance(0.002);
      const { position, filament } = talk.bench.truth();
      if (Math.hypot(position.x - 120, position.y - 100) < 2) around += filament.outMm - before;
      before = filament.outMm;
    }
    // 4 mm of line, at 0.04 mm of filament each.
    return around / (4 * 0.04) - 1;
  }
  it('halves the bulge of a corner', async () => {
    const bare = await bulge();
    const led = await bulge(own('lead.on', true), own('lead.time', 0.06));
    expect(bare).toBeGreaterThan(0.1);
    expect(Math.abs(led)).toBeLessThan(bare / 2);
  });
  it('feeds as much in the end', async () => {
    const fed = async (...edits: Edit[]) => {
      const talk = await plover.builtWith(COLD, ...edits);
      for (const line of [
        'G28',
        'M83',
        'G1 X20 Y100 Z5 F9000',
        'G1 X120 E4 F6000',
        'G1 Y180 E3.2',
        'G1 X20 F9000',
        'M400',
      ])
        // prettier-ignore
        talk.ask(line);
      return talk.bench.truth().position.e;
    };
    expect(await fed(own('lead.on', true), own('lead.time', 0.2))).toBeCloseTo(await fed(), 2);
  });
});
