import { describe, expect, it } from 'vitest';
import { setsLine } from '../src/calibration/boardSetting';
import { calibrationTools } from '../src/calibration/calibrationTools';
import { calibrationsOf } from '../src/calibration/calibrations';
import { settingOfFigure } from '../src/calibration/leftAside';
import { check } from '../src/checks/checks';
import { readStartCode } from '../src/slicer/readStartCode';
import type { ChangeKind, ChangeOf } from '../src/ripple/change';
import { applyChange, CHANGE_TYPES } from '../src/ripple/changes';
import { applyEdits, type Edit } from '../src/machine/edit';
import { write } from '../src/build/write';
import { pinOf } from '../src/circuit/pinTable';
import { type Facts, partFor } from '../src/machine/facts';
import type { Machine } from '../src/machine/machine';
import { factAtoms, factInWords, touched, touchedBy } from '../src/machine/touched';
import { carryOver } from '../src/settings/carryOver';
import { derive } from '../src/settings/derive';
import { heaterCurve } from '../src/settings/heaterCurve';
import { sensorInput } from '../src/settings/sensorInput';
import type { Settings } from '../src/settings/setting';
import { parseDump } from '../src/report/parseDump';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf, own } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';

const bittern = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), edits));
const two = (...edits: Edit[]) => bittern(...TWO_EXTRUDERS, ...edits);
const ids = (list: readonly { id: string }[]) => list.map(({ id }) => id);
type Told = { [K in ChangeKind]: Omit<ChangeOf<K>, 'id'> }[ChangeKind];
const OWN = ['current-second-e', 'pid-second-hotend', 'second-extruder-steps'];

describe('a second extruder', () => {
  it('has measurements of its own, each with a tool, and only where it is there', () => {
    for (const list of [calibrationsOf(two()), calibrationTools(two(), derive(two()))])
      expect(ids(list)).toEqual(expect.arrayContaining(OWN));
    for (const list of [calibrationsOf(bittern()), calibrationTools(bittern(), derive(bittern()))])
      expect(ids(list).filter((id) => OWN.includes(id))).toEqual([]);
  });
  it('has its temperature reckoned with the resistor of its own input', () => {
    const facts = two();
    const pin = pinOf(facts, partFor(facts, 'thermistor', 'hotend-2'), 'signal');
    const inputs = facts.board.inputs.map((one) => (one.pin === pin ? { ...one, pull_up_ohms: 1000 } : one));
    const other = { ...facts, board: { ...facts.board, inputs } };
    const tableIn = (of: Facts, macro: string) =>
      write(of, derive(of)).flatMap(({ lines }) => lines.map(({ text }) => text)).find((text) => text.includes(`${macro}_TABLE`)); // prettier-ignore
    expect(sensorInput(other, 'second-hotend').pullupOhms).toBe(1000);
    expect(tableIn(other, 'SENSOR_SECOND_HOTEND')).not.toEqual(tableIn(facts, 'SENSOR_SECOND_HOTEND'));
    expect(tableIn(other, 'SENSOR_HOTEND')).toEqual(tableIn(facts, 'SENSOR_HOTEND'));
  });
  it('a resistor in the lead of a sensor is reckoned with, beside that of its input or alone', () => {
    const own = { path: ['harness', 'e2-sensor', 'with'], value: [{ kind: 'pull-up', lead: 'signal', ohms: 4700, to: '3v3' }] }; // prettier-ignore
    const facts = two(own);
    const alone = { ...facts, board: { ...facts.board, inputs: [] } };
    expect(sensorInput(facts, 'second-hotend').pullupOhms).toBeCloseTo(2350);
    expect(sensorInput(alone, 'second-hotend').pullupOhms).toBe(4700);
    const open = check(alone, derive(alone)).flatMap(({ id, subject }) => (id === 'sensor.no-pull-up' ? [subject.id] : [])); // prettier-ignore
    expect(open).toContain('hotend-sensor');
    expect(open).not.toContain('e2-sensor');
  });
  it('every setting that is measured of it is found again by the figure on record', () => {
    const keys = calibrationsOf(two()).flatMap(({ id, sets }) => (OWN.includes(id) ? sets : []));
    const figures = [
      'current-second-e',
      'p-second-hotend',
      'i-second-hotend',
      'd-second-hotend',
      'steps-second-e',
    ];
    expect(figures.map(settingOfFigure)).toEqual(keys);
  });
  it('is told to the board by the kit’s own line, and what no one line sets is refused', () => {
    const { kit } = two();
    expect(setsLine(kit, { 'steps.e': 93.25 })).toBe('M92 E93.25');
    expect(setsLine(kit, { 'pid.second-hotend.p': 18, 'pid.second-hotend.d': 60 })).toBe('second p=18 d=60');
    expect(() => setsLine(kit, { 'steps.e': 93, 'steps.second-e': 93 })).toThrow('no line that sets');
  });
  it('whose hot end warms slower has a guard that waits longer, and is held against it', () => {
    const known = two().catalogue;
    const catalogue = { ...known, parts: known.parts.map((part) => (part.id === 'cartridge-12-40' && part.kind === 'heater' ? { ...part, volts: 24, supply_v: 24, body: { gain_c: 300, tau_s: 3000, dead_s: 3 } } : part)) };
    const slowWith = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), [...TWO_EXTRUDERS, { path: ['parts', 19, 'part'], value: 'cartridge-12-40' }, ...edits]), catalogue);
    const time = (facts: Facts, body: string) => derive(facts).get(`guard.${body}.rise-time`);
    const slow = slowWith();
    expect(time(slow, 'second-hotend')?.because).toContain('12 V 40 W');
    // The other one's guard does not wait any longer for that.
    expect(time(slow, 'hotend')?.value).toBe(time(bittern(), 'hotend')?.value);
    const set = own('guard.second-hotend.rise-time', time(two(), 'second-hotend')?.value);
    const trips = (facts: Facts) => check(facts, derive(facts)).filter(({ id }) => id === 'heat.guard-trips');
    expect(trips(slow)).toEqual([]);
    expect(trips(two())).toEqual([]);
    const [found, ...others] = trips(slowWith(set));
    expect(others).toEqual([]);
    expect(found?.what).toBe('The guard of the second hot end would raise false alarms while it warms.');
    expect(found?.evidence.join()).toContain('e2-heater');
    const [offered] = found?.remedies.filter(({ label }) => label.startsWith('Make it')) ?? [];
    expect(trips(slowWith(set, ...(offered?.edits ?? [])))).toEqual([]);
  }); // prettier-ignore
  it('is not built with its guard off, and its cap holds back its own heater only', () => {
    const off = two(own('guard.second-hotend', false));
    expect(check(off, derive(off)).filter(({ id }) => id === 'heat.guard-off').map(({ what }) => what)).toEqual(['The thermal guard of the second hot end is off.']); // prettier-ignore
    const capped = two(own('power.second-hotend', 50));
    const gain = (facts: Facts, body: 'hotend' | 'hotend-2') => certain(heaterCurve(facts, derive(facts), body), body).gainC; // prettier-ignore
    expect(gain(capped, 'hotend-2')).toBeCloseTo(gain(two(), 'hotend-2') / 2, 6);
    expect(gain(capped, 'hotend')).toBe(gain(two(), 'hotend'));
  });
  it('is asked no hotter than it may be by a slicer, whichever way the slicer names it', () => {
    const facts = two(own('heat.second-hotend.max', 200));
    const lines = (text: string) =>
      readStartCode(text, facts, derive(facts)).flatMap(({ id, line }) => (id === 'start.over-limit' ? [line] : [])); // prettier-ignore
    expect(lines('M104 S220\nM104 T1 S220\nT1\nM109 S220\nM104 T0 S220\nT0\nM109 S220')).toEqual([2, 4]);
    expect(lines('T1\nM109 S200')).toEqual([]);
    // With one extruder there is nothing else a line could heat.
    const one = bittern();
    const found = readStartCode('M104 T1 S220', one, derive(one)).map(({ id }) => id);
    expect(found).not.toContain('start.over-limit');
  });
  it('may turn another roller over other gears, the other way round and at other speeds', () => {
    const drive = { kind: 'roller', diameter_mm: 7, gear_ratio: 5, plus_is: 'anticlockwise', max_speed_mm_s: 20, max_accel_mm_s2: 300 } as const; // prettier-ignore
    const like = derive(two());
    const other = derive(two({ path: ['axes', 'e2'], value: drive }));
    const { e } = two().machine.axes;
    if (e.kind !== 'roller') throw new Error('an extruder has a roller');
    const share = (e.diameter_mm / drive.diameter_mm) * (drive.gear_ratio / (e.gear_ratio ?? 1));
    const number = (of: Settings, key: string) => Number(of.get(key)?.value);
    expect(number(other, 'steps.second-e') / number(like, 'steps.second-e')).toBeCloseTo(share, 4);
    expect([number(other, 'speed.second-e'), number(other, 'accel.second-e')]).toEqual([20, 300]);
    expect(number(like, 'speed.second-e')).toBe(number(like, 'speed.e'));
    expect(other.get('direction.second-e')?.value).toBe(like.get('direction.second-e')?.value !== (e.plus_is === 'clockwise')); // prettier-ignore
    for (const key of ['steps.e', 'direction.e', 'speed.e', 'accel.e'])
      expect(other.get(key), key).toEqual(like.get(key));
    expect(like.get('steps.second-e')?.because).toContain('like the first');
    expect(other.get('steps.second-e')?.because).not.toContain('like the first');
  });
  it('goes by what was set for the first until it has its own', () => {
    const set = [own('speed.e', 12), own('corner.jolt.e', 2), own('lead.time', 0.09), own('power.hotend', 60), own('heat.hotend.max', 240)]; // prettier-ignore
    const KEYS = ['speed.second-e', 'corner.jolt.second-e', 'lead.time.second-e', 'power.second-hotend', 'heat.second-hotend.max']; // prettier-ignore
    const values = (...edits: Edit[]) => KEYS.map((key) => derive(two(...edits)).get(key)?.value);
    expect(values(...set)).toEqual([12, 2, 0.09, 60, 240]);
    expect(derive(two(...set)).get('power.second-hotend')?.because).toContain('set for the first hot end');
    expect(values(...set, own('power.second-hotend', 90), own('lead.time.second-e', 0.02))).toEqual([12, 2, 0.02, 90, 240]); // prettier-ignore
    // A drive of its own is not like the first one's any more.
    const other = { path: ['axes', 'e2'], value: { ...two().machine.axes.e, max_speed_mm_s: 30 } };
    expect(values(...set, other)).toEqual([30, ...values().slice(1, 3), 60, 240]);
    // Nothing goes hotter than its parts stand.
    expect(values(own('heat.hotend.max', 400)).at(-1)).toBe(values().at(-1));
  });
  it('keeps its drive when the first one gets another, and the first one’s when it does', () => {
    const drive = { kind: 'roller', diameter_mm: 9 } as const;
    const edits = ({ machine, catalogue }: Facts, of?: 'e' | 'e2') =>
      CHANGE_TYPES['extruder-drive'].edits(machine, { id: 'one', kind: 'extruder-drive', drive, ...(of && { of }) }, catalogue); // prettier-ignore
    const after = (facts: Facts, of?: 'e' | 'e2') => {
      const made = edits(facts, of);
      if ('impossible' in made) throw new Error(made.impossible);
      return applyEdits(facts.machine, made).axes;
    };
    const { e } = two().machine.axes;
    expect(after(two(), 'e')).toMatchObject({ e: drive, e2: e });
    expect(after(two(), 'e2')).toMatchObject({ e, e2: drive });
    expect(after(two())).toMatchObject({ e: drive });
    expect(after(two({ path: ['axes', 'e2'], value: e })).e2).toBeUndefined();
    expect(edits(bittern(), 'e2')).toEqual({ impossible: 'this machine has no second extruder' });
    expect(edits(bittern(), 'e')).toEqual([{ path: ['axes', 'e'], value: drive }]);
  });
  it('gets another motor, other modules and another heater like the first one', () => {
    const partsIn = ({ parts }: Machine) => parts.map(({ id, part }) => `${id} ${part}`);
    const made = ({ machine, catalogue }: Facts, change: Told) => {
      const after = applyChange(machine, { id: 'one', ...change }, catalogue);
      return 'impossible' in after ? after.impossible : partsIn(after);
    };
    const changed = (change: Told) => {
      const was = partsIn(two().machine);
      const is = made(two(), change);
      return typeof is === 'string' ? is : is.filter((part) => !was.includes(part));
    };
    expect(changed({ kind: 'motor', axis: 'e2', part: 'motor-400-10' })).toEqual(['e2-motor motor-400-10']);
    expect(changed({ kind: 'motor', axis: 'e', part: 'motor-400-10' })).toEqual(['e-motor motor-400-10']);
    expect(changed({ kind: 'drivers', axes: ['e'], part: 'dray-d1', microsteps: 16 })).toEqual(['e-driver dray-d1', 'e2-driver dray-d1']); // prettier-ignore
    expect(changed({ kind: 'heater', body: 'hotend-2', part: 'cartridge-24-60' })).toEqual(['e2-heater cartridge-24-60']); // prettier-ignore
    expect(changed({ kind: 'thermistor', body: 'hotend-2', part: 't100-b' })).toEqual(['e2-sensor t100-b']);
    expect(made(bittern(), { kind: 'motor', axis: 'e2', part: 'motor-400-10' })).toBe('this machine has no second extruder'); // prettier-ignore
    expect(made(bittern(), { kind: 'heater', body: 'hotend-2', part: 'cartridge-24-60' })).toBe('this machine has no second extruder'); // prettier-ignore
  });
  it('what was measured of one falls due with its own drive only', () => {
    const sides = (at: 'e' | 'e2') => touched(factAtoms(two({ path: ['axes', 'e2'], value: two().machine.axes.e })), factAtoms(two({ path: ['axes', 'e2'], value: two().machine.axes.e }, { path: ['axes', at, 'gear_ratio'], value: 9 })), []); // prettier-ignore
    const due = (at: 'e' | 'e2') =>
      calibrationsOf(two()).filter(({ restsOn, sets }) => sets.some((key) => key.startsWith('steps.')) && touchedBy(sides(at), restsOn)).map(({ id }) => id); // prettier-ignore
    expect(due('e')).toEqual(['extruder-steps']);
    expect(due('e2')).toEqual(['second-extruder-steps']);
    expect(factInWords('axis.e2')).toBe('the second extruder’s drive');
  });
  it('coming to a machine it says nothing against what was measured of the first, nor does another motor of it', () => {
    const keys = (was: Facts, is: Facts) => [...touched(factAtoms(was), factAtoms(is), []).keys()].filter((key) => /\.e2?$/.test(key)); // prettier-ignore
    expect(keys(bittern(), two()).sort()).toEqual(['axis.e2', 'driver.e2', 'motor.e2', 'plug.e2']);
    expect(keys(two(), two({ path: ['parts', 18, 'part'], value: 'motor-400-10' }))).toEqual(['motor.e2']);
    expect(keys(two(), two({ path: ['harness', 'e2-motor', 'turned'], value: true }))).toEqual(['plug.e2']);
    expect(keys(two(), two({ path: ['parts', 17, 'microsteps'], value: 32 }))).toEqual(['driver.e2']);
  });
  it('steps too fine for the board are found at the one that has them', () => {
    const found = (...edits: Edit[]) => { const facts = two(...edits); return check(facts, derive(facts)).filter(({ id }) => id === 'motion.pulse-rate'); }; // prettier-ignore
    const [first, ...others] = found(own('speed.second-e', 1000));
    expect(others).toEqual([]);
    expect(first?.what).toContain('Second extruder at 1000 mm/s');
  });
  it('what was measured of it goes along with its own microsteps', () => {
    const dump = parseDump({ text: 'setting second s=200 c=0.8 p=18 i=0.9 d=60' });
    const row = (after: Facts) => carryOver(two(), after, dump).find(({ option }) => option?.key === 'steps.second-e');
    expect(row(two())).toMatchObject({ verdict: 'carry', proposed: 200 });
    const finer = two({ path: ['parts', 17, 'microsteps'], value: 32 });
    expect(row(finer)).toMatchObject({ verdict: 'rescale', proposed: 400 });
    expect(row(finer)?.because).toContain('microsteps 16 become 32');
    // The first one's steps say nothing of it.
    const first = two({ path: ['parts', certain(two().machine.parts.findIndex(({ role, microsteps }) => role === 'e' && microsteps !== undefined), 'a driver'), 'microsteps'], value: 32 });
    expect(row(first)).toMatchObject({ verdict: 'carry', proposed: 200 });
  }); // prettier-ignore
  it('is called by name where one of its facts is told', () => {
    expect(factInWords('heater.hotend-2')).toBe('the second hot end’s heater');
    expect(factInWords('heater.hotend')).toBe('the hot-end heater');
  });
});
