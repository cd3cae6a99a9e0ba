import { describe, expect, it } from 'vitest';
import { CHANGE_KINDS } from '../src/ripple/changes';
import { applyEdits } from '../src/machine/edit';
import { needs, stepsBefore } from '../src/ripple/preparation';
import { planned } from '../src/ripple/replan';
import { rounds } from '../src/ripple/rounds';
import { type Change, changeSchema } from '../src/ripple/change';
import { type Ripple, ripple } from '../src/ripple/ripple';
import { demoMachine, factsOf, installed } from './fixtures/demo';
import { changes, EVERY_KIND, ploverJob, subjects, tailOf } from './fixtures/job';

const { catalogue } = installed;
const job = ploverJob();
const before = factsOf(job.before);
const tail = ripple(before, job.changes);
const of = (ripple: Ripple, kind: string, subject: string) =>
  ripple.consequences.find((entry) => entry.kind === kind && entry.subject === subject);

describe('Plover’s job', () => {
  it('makes of the old machine exactly the machine of the demo', () => {
    expect(planned(job.before, job.changes, catalogue)).toEqual(demoMachine('plover'));
  });
  it('moves every lead, nine with attention', () => {
    const leads = tail.consequences.filter((entry) => entry.kind === 'lead');
    expect(leads.filter((lead) => lead.attention).map((lead) => lead.subject)).toEqual([
      'e-motor', 'x-switch', 'y-switch', 'hotend-heater', 'bed-heater', 'part-fan', 'hotend-fan', 'probe', 'z-switch',
    ]); // prettier-ignore
    expect(of(tail, 'lead', 'x-switch')).toMatchObject({
      from: 'LX: signal 1, ground 2',
      to: 'STOP-X: signal 3, ground 2',
      causes: ['board'],
    });
    expect(of(tail, 'lead', 'hotend-fan')!.attention!.join()).toContain('supply 12 V becomes 24 V');
    expect(of(tail, 'lead', 'z-switch')!.to).toBe('taken off');
  });
  it('turns three directions and names drivers as the cause, with old and new value', () => {
    for (const axis of ['x', 'y', 'z'])
      expect(of(tail, 'setting', `direction.${axis}`)!.causes).toEqual(['drivers']);
    expect(of(tail, 'setting', 'direction.x')).toMatchObject({ from: 'on', to: 'off' });
    expect(of(tail, 'setting', 'direction.e')).toBeUndefined();
    expect(of(tail, 'setting', 'home.z.with')).toMatchObject({
      from: 'switch',
      to: 'probe',
      causes: ['probe'],
    });
  });
  it('speaks of nothing that is not on the machine as it will be', () => {
    expect(subjects(tail, 'proof')).not.toContain('switch-z');
    expect(subjects(tail, 'calibration')).not.toContain('z-switch');
    expect(subjects(tail, 'caution')).not.toContain('volts-hotend-fan');
    expect(subjects(tail, 'slicer')).toContain('start-home');
  });
  it('without the new fan, the 12 V fan on 24 V is a caution', () => {
    const without = ripple(
      before,
      job.changes.filter((change) => change.id !== 'fan'),
    );
    expect(of(without, 'caution', 'volts-hotend-fan')!.title).toContain(
      'hotend-fan burns: it is made for 12 V and gets 24 V then',
    );
  });
  it('begins its rounds with the base unchanged', () => {
    expect(rounds(job.changes, tail).map((round) => round.id)).toEqual([
      'base',
      'board',
      'drivers',
      'probe',
      'fan',
    ]);
    expect(rounds(job.changes, tail)[3]!.proofs).toContain('probe');
  });
  it('computes what must lie on the table', () => {
    const list = needs(before, factsOf(tail.after), tail);
    const shells = list.filter(({ id }) => id.startsWith('shell-'));
    expect(shells.find(({ id }) => id === 'shell-k3-latch')!.count).toBe(2);
    for (const { what, count } of shells)
      expect(what).toMatch(count === 1 ? / shell$/ : / shells$|^ferrules for /);
    expect(list.find((need) => need.id === 'heat-sinks')!.count).toBe(4);
    expect(list.find((need) => need.id === 'lead-probe')!.what).toContain('850 mm');
    expect(list.map((need) => need.id)).toEqual(
      expect.arrayContaining(['shim', 'meter', 'card', 'programmer']),
    );
    expect(stepsBefore(tail).map((step) => step.id)).toContain('glue');
  });
});

describe('every kind of change', () => {
  it('is guarded by the schema, and there are at least eighteen', () => {
    expect(new Set(EVERY_KIND.map((change) => change.kind))).toEqual(new Set(CHANGE_KINDS));
    expect(CHANGE_KINDS.length).toBeGreaterThanOrEqual(18);
    const wrong = (change: object) => changeSchema().validate(change).error?.message;
    for (const change of changes(...EVERY_KIND)) expect(wrong(change)).toBeUndefined();
    expect(wrong({ id: 'x', kind: 'paint' })).toContain('must be one of');
    expect(wrong({ id: 'x', kind: 'nozzle', colour: 1 })).toContain('colour');
  });
  it.each([
    [
      'supply',
      { kind: 'supply', volts_v: 24, amps_a: 20 },
      { calibration: ['pid-hotend', 'pid-bed'], decide: ['speed.x'] },
    ],
    [
      'drivers',
      { kind: 'drivers', part: 'dray-d1', axes: ['x'], microsteps: 32 },
      {
        setting: ['steps.x', 'direction.x'],
        calibration: ['current-x'],
        proof: ['home'],
        lead: ['x-driver'],
      },
    ],
    [
      'motor',
      { kind: 'motor', axis: 'e', part: 'motor-400-10' },
      { setting: ['steps.e'], calibration: ['extruder-steps', 'current-e'] },
    ],
    [
      'drive',
      {
        kind: 'drive',
        axis: 'x',
        drive: {
          kind: 'belt',
          pitch_mm: 2,
          teeth: 20,
          plus_is: 'anticlockwise',
          max_speed_mm_s: 200,
          max_accel_mm_s2: 1200,
        },
      },
      { setting: ['steps.x'], proof: ['home'] },
    ],
    [
      'extruder-drive',
      {
        kind: 'extruder-drive',
        drive: {
          kind: 'roller',
          diameter_mm: 9,
          gear_ratio: 3.5,
          plus_is: 'clockwise',
          max_speed_mm_s: 45,
          max_accel_mm_s2: 2500,
        },
      },
      { setting: ['steps.e'], calibration: ['extruder-steps'] },
    ],
    [
      'frame-size',
      {
        kind: 'frame-size',
        bed_mm: { x: [0, 200], y: [0, 200] },
        travel_mm: { x: [-6, 210], y: [-2, 205], z: [0, 300] },
      },
      {
        setting: ['bed.x.max', 'travel.z.max', 'home.spot.x'],
        slicer: ['volume'],
        calibration: ['tram', 'pid-bed'],
        proof: ['home'],
      },
    ],
    [
      'probe-removed',
      { kind: 'probe-removed', switch_part: 'lever-switch-nc' },
      {
        setting: ['home.z.with', 'probe.kind'],
        lead: ['z-switch', 'probe'],
        idle: ['probe', 'header-probe'],
        calibration: ['z-switch'],
        proof: ['switch-z'],
      },
    ],
    [
      'probe-replugged',
      {
        kind: 'probe-replugged',
        landing: {
          leads: { signal: 'FILAMENT.3', ground: 'FILAMENT.2', supply: 'FILAMENT.1', control: 'SERVO.1' },
        },
      },
      { lead: ['probe'], proof: ['probe'], caution: ['probe-air'] },
    ],
    [
      'hot-end',
      { kind: 'hot-end', heater: 'cartridge-24-60', thermistor: 't100-b' },
      {
        setting: ['sensor.hotend', 'guard.hotend.rise-time'],
        calibration: ['pid-hotend', 'z-offset', 'probe-place'],
        caution: ['heater'],
      },
    ],
    [
      'heater',
      { kind: 'heater', body: 'bed', part: 'bed-24-300' },
      { calibration: ['pid-bed'], decide: ['control.bed'] },
    ],
    [
      'thermistor',
      { kind: 'thermistor', body: 'bed', part: 't10-c' },
      { setting: ['sensor.bed'], proof: ['cold'], calibration: ['pid-bed'] },
    ],
    ['nozzle', { kind: 'nozzle' }, { calibration: ['z-offset', 'first-layer'], slicer: ['nozzle'] }],
    [
      'fan',
      { kind: 'fan', role: 'part', part: 'fan-12-40' },
      { lead: ['part-fan'], calibration: ['pid-hotend'] },
    ],
    [
      'filament-sensor',
      { kind: 'filament-sensor', part: 'reel-eye' },
      { lead: ['filament-sensor'], setting: ['filament.sensor'] },
    ],
    ['servo', { kind: 'servo', role: 'flap', part: 'twig-servo' }, { lead: ['flap-servo'] }],
    ['display', { kind: 'display', part: 'slate-20' }, { lead: ['display'] }],
    ['feature', { kind: 'feature', key: 'control.bed', value: 'on-off' }, { setting: ['control.bed'] }],
    [
      'same-board',
      { kind: 'same-board' },
      { proof: ['identity', 'store', 'switch-x'], calibration: ['pid-hotend'], caution: ['stored'] },
    ],
    [
      'dual-z',
      { kind: 'dual-z', part: 'motor-200-12' },
      { lead: ['z-motor-2'], calibration: ['current-z', 'tram'], proof: ['home'] },
    ],
  ] as [string, Omit<Change, 'id'>, Record<string, string[]>][])('%s', (_name, change, wanted) => {
    const found = tailOf('plover', change as never);
    expect(found.contradictions.filter((entry) => entry.id === 'impossible')).toEqual([]);
    for (const [kind, names] of Object.entries(wanted))
      expect(subjects(found, kind)).toEqual(expect.arrayContaining(names));
    for (const entry of found.consequences) expect(entry.causes.length).toBeGreaterThan(0);
  });
  it('a part that finds no place with its voltage gets a converter', () => {
    const found = tailOf('plover', { kind: 'fan', role: 'part', part: 'fan-12-40' });
    expect(of(found, 'lead', 'part-fan')).toMatchObject({
      to: expect.stringContaining('converter to 12 V') as string,
    });
    const forced = tailOf('plover', {
      kind: 'fan',
      role: 'part',
      part: 'fan-12-40',
      landing: { leads: { supply: 'FAN-1.1', control: 'FAN-1.2' } },
    });
    expect(subjects(forced, 'caution')).toContain('volts-part-fan');
  });
  it('a nozzle asks for no image, and neither offset nor PID of the bed', () => {
    const found = tailOf('plover', { kind: 'nozzle' });
    expect(found.flash).toBe(false);
    // A change of settings alone is enough.
    const { y } = demoMachine('plover').axes;
    expect(tailOf('plover', { kind: 'drive', axis: 'x', drive: y }).flash).toBe(true);
    expect(subjects(found, 'calibration')).not.toContain('pid-bed');
    expect(subjects(found, 'calibration')).not.toContain('probe-place');
  });
  it('an own value that was measured with another drive is to be decided, not changed', () => {
    const machine = applyEdits(demoMachine('plover'), [
      { path: ['settings', 'steps.e'], value: { value: 341.6, source: 'carried', because: 'measured' } },
    ]);
    const found = ripple(factsOf(machine), changes({ kind: 'motor', axis: 'e', part: 'motor-400-10' }));
    expect(subjects(found, 'setting')).not.toContain('steps.e');
    expect(of(found, 'decide', 'steps.e')).toMatchObject({ from: '341.6' });
    expect(of(found, 'decide', 'steps.e')!.because).toContain('it scales');
  });
});

describe('contradictions', () => {
  type Told = Parameters<typeof changes>[number];
  const ids = (...told: Told[]) => tailOf('plover', ...told).contradictions.map((entry) => entry.id);
  const belt = (teeth: number) =>
    ({
      kind: 'drive',
      axis: 'x',
      drive: {
        kind: 'belt',
        pitch_mm: 2,
        teeth,
        plus_is: 'clockwise',
        max_speed_mm_s: 200,
        max_accel_mm_s2: 900,
      },
    }) as const;
  it('two changes that want one thing to be two things', () => {
    expect(ids(belt(18), belt(20))).toContain('same-thing-twice');
    expect(ids(belt(18), { kind: 'motor', axis: 'x', part: 'motor-400-10' })).toEqual([]);
  });
  it('changes that exclude each other', () => {
    expect(ids({ kind: 'new-board', board: 'harrow-h6', revision: 'B' }, { kind: 'same-board' })).toContain(
      'either-or',
    );
    expect(
      ids(
        { kind: 'hot-end', heater: 'cartridge-24-60', thermistor: 't100-b' },
        { kind: 'heater', body: 'bed', part: 'bed-24-300' },
      ),
    ).toEqual([]);
    expect(
      ids(
        { kind: 'hot-end', heater: 'cartridge-24-60', thermistor: 't100-b' },
        { kind: 'heater', body: 'hotend', part: 'cartridge-24-40' },
      ),
    ).toContain('either-or');
  });
  it('a machine that could not hold together', () => {
    expect(ids({ kind: 'supply', volts_v: 36, amps_a: 10 })).toEqual(
      expect.arrayContaining(['supply-board', 'supply-heater']),
    );
    expect(ids({ kind: 'probe-removed' })).toContain('z-unknown');
    const pipit = { kind: 'new-board', board: 'pipit-2', revision: '1' } as const;
    const drivers = (part: string): Told => ({ kind: 'drivers', part, microsteps: 16, axes: ['x', 'y', 'z', 'e'] }); // prettier-ignore
    for (const part of ['hush-wire', 'gannet-g5']) expect(ids(pipit, drivers(part))).toContain('driver-mode');
    expect(ids(pipit, drivers('dray-d1'))).toEqual([]);
    // Modules that have no socket on the next board yet are held against all it has.
    expect(ids({ kind: 'new-board', board: 'fenwick-f8', revision: '2' })).toContain('driver-mode');
    expect(ids({ kind: 'new-board', board: 'harrow-h6', revision: 'B' })).toEqual([]);
    // The drivers of the board before do not come along, whatever line they want.
    expect(ids(pipit)).toEqual(['drivers-stay']);
  });
  it('a change that cannot be made is left out and told', () => {
    expect(ids({ kind: 'new-board', board: 'alder-a32', revision: '1.1' })).toEqual(['impossible']);
    expect(ids({ kind: 'kit-version', kit: 'lantern', version: '9.9.9' })).toEqual(['impossible']);
    const told = changes({ kind: 'probe-removed' }, { kind: 'nozzle' });
    const dunlin = ripple(factsOf(demoMachine('dunlin')), told);
    expect(dunlin.contradictions.map((entry) => entry.id)).toEqual(['impossible']);
    expect(dunlin.contradictions[0]!.why).toMatch(/^[A-Z].*\.$/);
    expect(dunlin.consequences.every((entry) => !entry.causes.includes('probe-removed-0'))).toBe(true);
  });
});
