import { describe, expect, it } from 'vitest';
import { setsLine } from '../src/calibration/boardSetting';
import { calibrationTools } from '../src/calibration/calibrationTools';
import { calibrationsOf } from '../src/calibration/calibrations';
import { settingOfFigure } from '../src/calibration/leftAside';
import { check } from '../src/checks/checks';
import { applyEdits, type Edit } from '../src/machine/edit';
import type { Facts } from '../src/machine/facts';
import { factInWords } from '../src/machine/touched';
import { carryOver } from '../src/settings/carryOver';
import { derive } from '../src/settings/derive';
import { parseDump } from '../src/report/parseDump';
import { certain } from '../src/tree/certain';
import { demoMachine, factsOf, own } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';

const bittern = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), edits));
const two = (...edits: Edit[]) => bittern(...TWO_EXTRUDERS, ...edits);
const ids = (list: readonly { id: string }[]) => list.map(({ id }) => id);
const OWN = ['current-second-e', 'pid-second-hotend', 'second-extruder-steps'];

describe('a second extruder', () => {
  it('has measurements of its own, each with a tool, and only where it is there', () => {
    for (const list of [calibrationsOf(two()), calibrationTools(two(), derive(two()))])
      expect(ids(list)).toEqual(expect.arrayContaining(OWN));
    for (const list of [calibrationsOf(bittern()), calibrationTools(bittern(), derive(bittern()))])
      expect(ids(list).filter((id) => OWN.includes(id))).toEqual([]);
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
  it('whose hot end warms slower is held against the guard, which both have', () => {
    const known = two().catalogue;
    const catalogue = { ...known, parts: known.parts.map((part) => (part.id === 'cartridge-12-40' && part.kind === 'heater' ? { ...part, volts: 24, supply_v: 24, body: { gain_c: 300, tau_s: 3000, dead_s: 3 } } : part)) };
    const slowWith = (...edits: Edit[]) => factsOf(applyEdits(demoMachine('bittern'), [...TWO_EXTRUDERS, { path: ['parts', 19, 'part'], value: 'cartridge-12-40' }, ...edits]), catalogue);
    const slow = slowWith();
    // By themselves the windows suit the slower of the two; somebody has set them for the first one.
    const kept = derive(slow).get('guard.hotend.rise-time');
    expect(kept?.because).toContain('12 V 40 W');
    const set = own('guard.hotend.rise-time', derive(two()).get('guard.hotend.rise-time')?.value);
    const trips = (facts: Facts) => check(facts, derive(facts)).filter(({ id }) => id === 'heat.guard-trips');
    expect(trips(slow)).toEqual([]);
    expect(trips(two())).toEqual([]);
    const [found, ...others] = trips(slowWith(set));
    expect(others).toEqual([]);
    expect(found?.what).toBe('The guard of the second hot end would raise false alarms while it warms.');
    expect(found?.evidence.join()).toContain('e2-heater');
  }); // prettier-ignore
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
