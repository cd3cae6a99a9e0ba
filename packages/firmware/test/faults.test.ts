import { BadLine, carryOut, FAULTS, type Rig, type RigEvent, rigOf } from '@jolly/bench';
import { isUnreadable } from '@jolly/core/bringup/unreadable';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { workshop } from './fixtures/builtMachine';

const plover = workshop();

interface Session {
  rig: Rig;
  events: RigEvent[];
  /** Carries out lines and gives what was said from then on. */
  run: (...lines: string[]) => Promise<string[]>;
}

const said = (event: RigEvent): string =>
  'reply' in event ? event.reply : 'notice' in event ? `! ${event.notice}` : '';

/** Plover on the bench, faults laid before it is flashed. */
async function session(...before: string[]): Promise<Session> {
  const events: RigEvent[] = [];
  const image = certain(plover.state().image ?? undefined, 'the image');
  const rig = rigOf(plover.facts(), image, 1, (event) => void events.push(event));
  for (const fault of before) rig.lay(fault);
  await rig.power(true);
  rig.wait(0.2);
  const run = async (...lines: string[]) => {
    const from = events.length;
    for (const line of lines) await carryOut(rig, line, () => undefined);
    return events.slice(from).map(said);
  };
  return { rig, events, run };
}

/** Each fault: laid before or while running, what is done, and what is seen of it. */
const SYMPTOMS: Record<string, { do: string[]; sees: RegExp; truth?: (rig: Rig) => void }> = {
  'probe-leads-swapped': { do: ['G28 X Y', 'G28 Z'], sees: /^stopped: Z / },
  'ground-loose': { do: ['G28 X Y', 'G28 Z'], sees: /^stopped: Z / },
  'endstop-other-contact': { do: ['G28 X'], sees: /^stopped: X reads its switch as met and it stays so/ },
  'pull-up-missing': { do: ['M92 X100', 'M119'], sees: /^switch x=(open|closed)/ },
  'thermistor-other-type': { do: ['@wait 1', 'M105'], sees: /^heat body=hotend now=(?!2[01]\.)/ },
  'sensor-open': { do: ['@wait 4'], sees: /^stopped: hotend sensor open or too cold/ },
  'sensor-short': { do: ['@wait 4'], sees: /^stopped: hotend too hot or sensor shorted/ },
  'sensor-slipped': {
    do: ['@send M109 S200', '@wait 300'],
    sees: /^stopped: hotend does not follow its heater/,
  },
  'heater-fan-exchanged': {
    do: ['M104 S200', '@wait 300'],
    sees: /^stopped: hotend does not follow its heater/,
    truth: (rig) => expect(rig.truth().temperatureC.hotend).toBeLessThan(25),
  },
  'heaters-exchanged': {
    do: ['M104 S200', '@wait 300'],
    sees: /^stopped: hotend does not follow its heater/,
    truth: (rig) => expect(rig.truth().temperatureC.bed).toBeGreaterThan(22),
  },
  'sensors-exchanged': {
    do: ['@warm bed 55', '@wait 3', 'M105'],
    sees: /^heat body=hotend now=5\d\./,
  },
  'coil-crossed': { do: ['G28 X'], sees: /^stopped: X homing did not meet its switch/ },
  'motor-dead': {
    do: ['G91', 'G1 Y5', 'M400'],
    sees: /^done$/,
    truth: (rig) => expect(rig.truth().lost.y).toBeGreaterThan(300),
  },
  'direction-reversed': {
    do: ['G28 X'],
    sees: /^stopped: X homing did not meet its switch/,
    truth: (rig) => expect(rig.truth().blocked.x).toBeGreaterThan(0),
  },
  'current-low': {
    do: ['G28 X', 'G1 X200 F12000', 'M400'],
    sees: /^(done$|stopped: X)/,
    truth: (rig) => expect(rig.truth().lost.x).toBeGreaterThan(0),
  },
  'current-high': {
    do: ['G28 X', '@wait 200'],
    sees: /^done$/,
    truth: (rig) => expect(rig.truth().drivers.x?.amps).toBeGreaterThan(1.2),
  },
  'driver-reversed': { do: ['G28 X'], sees: /^stopped: X homing did not meet its switch/ },
  'belt-slips': {
    do: ['G28 X', 'G1 X200 F12000', 'G1 X20', 'G1 X200', 'M400'],
    sees: /^done$/,
    truth: (rig) => expect(Math.abs(rig.truth().position.x - 200)).toBeGreaterThan(0.2),
  },
  'probe-not-stowing': {
    do: ['M401', 'M402', '@wait 1'],
    sees: /^done$/,
    truth: (rig) => expect(rig.truth().probe?.deployed).toBe(true),
  },
  'probe-not-triggering': {
    do: ['G28'],
    sees: /^stopped: Z homing did not meet the plate/,
    truth: (rig) => expect(rig.truth().nozzle).toBe('rams'),
  },
  'probe-scatters': {
    do: ['G28', 'repeat n=10'],
    sees: /^repeat touches=10 .*span=0\.(0[3-9]|1)/,
  },
  'sensor-jumps': {
    do: ['@warm hotend 200', '@wait 3', 'M105'],
    sees: /^heat body=hotend now=/,
    truth: (rig) => expect(rig.truth().temperatureC.hotend).toBe(200),
  },
  'heater-stuck-on': { do: ['@wait 600'], sees: /^stopped: hotend too hot or sensor shorted/ },
  'fan-voltage-wrong': {
    do: ['@wait 1'],
    sees: /^!? ?/,
    truth: (rig) => expect(rig.truth().fans['part-fan']).toBe(0),
  },
  'adapter-off-by-one': { do: ['@press x-switch', 'M119', '@release x-switch', 'M119'], sees: /^switch x=/ },
  'cable-out': {
    do: ['@mend cable-out', 'M104 S150', '@fault cable-out', '@send M112', '@wait 30', '@mend cable-out', '@wait 1', 'M105'],
    // Neither stop nor answers came through, and it went on heating.
    sees: /^heat body=hotend now=\d{2,3}\.\d+ target=150/,
    truth: (rig) => expect(rig.truth().temperatureC.hotend).toBeGreaterThan(60),
  }, // prettier-ignore
  'supply-off': {
    do: ['G91', 'G1 X5', 'M400', 'M104 S100', '@wait 5'],
    sees: /^done$/,
    truth: (rig) => {
      expect(rig.truth().lost.x).toBeGreaterThan(300);
      expect(rig.truth().temperatureC.hotend).toBeLessThan(22);
    },
  },
  'jumper-missing': { do: ['@power off', '@power on', '@wait 1'], sees: /^! the board is silent/ },
};
const BEFORE: Record<string, { do: string[]; sees: RegExp }> = {
  'card-not-fat32': { do: [], sees: /^! the image was not taken: .*FAT32/ },
  'file-name-reused': { do: [], sees: /^! the image was not taken: / },
  'load-address-wrong': { do: [], sees: /^! the image was not taken: the image begins at 0x100/ },
  'image-for-another-target': { do: [], sees: /^! the image was not taken: the image is made for another/ },
  'bootloader-missing': { do: [], sees: /^! the image was not taken: nothing looked at the card/ },
  // Seen by the tool only: bench/test/flashing.
  'programmer-wires-exchanged': { do: ['M115'], sees: /^lantern name="Plover"/ },
  'image-already-there': { do: ['M115'], sees: /^lantern name="Plover"/ },
  'settings-stale': { do: ['M503'], sees: /^setting M92 X160\.0000/ },
  'tool-reports-an-error': { do: ['M115'], sees: /^lantern name="Plover"/ },
  'baud-wrong': { do: ['@wait 1'], sees: /^(?!.*lantern)/ },
  'port-held': { do: ['@send M115', '@wait 1'], sees: /^! the port is held/ },
};

describe('every fault has its symptom', () => {
  it('and every fault of the bench is tried here', () => {
    expect([...Object.keys(SYMPTOMS), ...Object.keys(BEFORE)].sort()).toEqual(
      FAULTS.map(({ name }) => name).sort(),
    );
  });
  it.each(Object.entries(SYMPTOMS))('%s, laid while running', async (name, { do: lines, sees, truth }) => {
    const { rig, events, run } = await session();
    rig.lay(name);
    await run(...lines);
    expect(events.map(said).some((line) => sees.test(line))).toBe(true);
    truth?.(rig);
  });
  it.each(Object.entries(BEFORE))('%s, laid before', async (name, { do: lines, sees }) => {
    const { events, run } = await session(name);
    await run(...lines);
    expect(events.map(said).some((line) => sees.test(line))).toBe(true);
    if (name === 'baud-wrong') {
      expect(events.map(said).join()).not.toContain('lantern');
      // It is no silence: what it says at another speed is noise.
      expect(events.some((event) => 'reply' in event && isUnreadable(event.reply))).toBe(true);
    }
  });
  it('mended, the machine is as it was', async () => {
    const { run, rig } = await session('endstop-other-contact', 'thermistor-other-type');
    await run('@mend endstop-other-contact', '@mend thermistor-other-type', '@wait 10');
    expect((await run('wake', 'G28')).at(-1)).toBe('done');
    expect(rig.truth().blocked).toEqual({ x: 0, y: 0, z: 0 });
  });
});

describe('what a person at the bench does', () => {
  it('unplugs a normally closed switch with a pull-up: it reads as met, as a broken wire does', async () => {
    const { run } = await session();
    expect((await run('M119'))[0]).toContain('x=open');
    expect((await run('@unplug x-switch.signal', 'M119'))[0]).toContain('x=closed');
    expect((await run('@mend x-switch.signal', 'M119'))[0]).toContain('x=open');
    expect((await run('@unplug x-switch', 'M119'))[0]).toContain('x=closed');
  });
  it("a heater's supply lead on ground never warms; a thermistor without ground reads as open", async () => {
    const { run, rig } = await session();
    await run('@unplug bed-heater.supply', 'M140 S60', '@wait 60');
    expect(rig.truth().temperatureC.bed).toBeCloseTo(21, 0);
    expect(
      (await run('@unplug hotend-sensor.ground', '@wait 4')).some((line) => /open or too cold/.test(line)),
    ).toBe(true);
  });
  it('warms, chills, presses and mends', async () => {
    const { run, rig } = await session();
    await run('@warm bed 55', '@wait 5');
    expect((await run('M105'))[1]).toMatch(/^heat body=bed now=5[45]\./);
    await run('@mend bed', '@wait 5');
    expect((await run('M105'))[1]).toMatch(/^heat body=bed now=2[01]\./);
    await run('M109 S200', '@chill hotend 3', '@send M105', '@wait 30');
    expect(rig.truth().temperatureC.hotend).toBeLessThan(195);
    expect((await run('@press x-switch', 'M119'))[0]).toContain('x=closed');
    expect((await run('@release x-switch', 'M119'))[0]).toContain('x=open');
  });
  it('cuts the power: the machine stays where it is and cools, the board has forgotten', async () => {
    const { run, rig } = await session();
    await run('G28', 'G1 X100 F9000', 'M109 S200');
    const before = rig.truth();
    await run('@power off', '@wait 60');
    expect(rig.truth().position).toEqual(before.position);
    expect(rig.truth().temperatureC.hotend).toBeLessThan(180);
    const after = await run('@power on', '@wait 0.2', 'M114');
    expect(after[0]).toBe('awake store=fresh');
    expect(after.find((line) => line.startsWith('at '))).toContain('homed=---');
  });
  it('is told whether the board stopped itself', async () => {
    const { run, rig } = await session();
    await run('M112', '@wait 1');
    expect(rig.stoppedItself()).toBe(false);
    await run('wake', '@fault sensor-open', '@wait 4');
    expect(rig.stoppedItself()).toBe(true);
  });
  it.each([
    ['@wait', 'the seconds to wait must be a number'],
    ['@wait -1', 'the seconds to wait must be a number from 0'],
    ['@press nothing', 'there is no part "nothing"; there are x-motor'],
    ['@warm x-motor 50', 'neither heater, sensor'],
    ['@warm bed 601', 'the degrees must be a number from -50 to 600'],
    ['@warm bed -51', 'the degrees must be a number from -50 to 600'],
    ['@chill bed 1001', 'the share must be a number from 0 to 1000'],
    ['@unplug probe.arm', 'probe has no lead "arm"; it has signal'],
    ['@fault gremlins', 'there is no fault "gremlins"'],
    ['@mend bed', 'nothing is wrong with "bed"'],
    ['@power maybe', '@power wants on or off'],
    ['@dance', 'there is no @dance; there are @truth, @send'],
  ])('"%s" is refused in words', async (line, says) => {
    const { run } = await session();
    await expect(run(line)).rejects.toThrow(BadLine);
    await expect(run(line)).rejects.toThrow(says);
  });
});
