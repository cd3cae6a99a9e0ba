import { describe, expect, it } from 'vitest';
import { calibrationsOf } from '../src/calibration/calibrations';
import { derive } from '../src/settings/derive';
import { isRead, readNow } from '../src/kit/kit';
import { needs } from '../src/ripple/preparation';
import { readGcode } from '../src/slicer/gcodeLine';
import { readStartCode } from '../src/slicer/readStartCode';
import { ripple } from '../src/ripple/ripple';
import { writeEndCode, writeStartCode } from '../src/slicer/writeStartCode';
import { demoMachine, earlierKit, factsOf, wholeKit } from './fixtures/demo';
import { ploverJob } from './fixtures/job';

const MACHINES = ['plover', 'bittern', 'dunlin'];

describe('how a value is measured', () => {
  const how = (id: string, calibration: string, catalogue = earlierKit) =>
    calibrationsOf(factsOf(demoMachine(id), catalogue)).find((entry) => entry.id === calibration)!.how;

  it('asks for nothing that this version of the kit has not', () => {
    expect(how('plover', 'first-layer')).toContain('Change the Z offset of the probe in small steps');
    expect(how('dunlin', 'first-layer')).toContain('Move the Z switch');
    expect(how('plover', 'probe-repeat')).toContain('Lantern 0.1.0 tells no spread');
  });
  it('and uses what a later one brings', () => {
    expect(how('plover', 'first-layer', wholeKit)).toContain('Nudge in small steps');
    expect(how('plover', 'probe-repeat', wholeKit)).toContain('ten times; the readings');
  });
});

describe('the kit file', () => {
  const { kit } = factsOf(demoMachine('plover'));

  it('an option is read from the version it names on', () => {
    for (const option of kit.options) expect(isRead(kit, option.key)).toBe(readNow(kit).includes(option));
    expect(isRead(kit, 'no.such')).toBe(false);
  });
  it('every command is brought by an option that is there, and comes no sooner than it', () => {
    for (const { say, by, from } of kit.commands) {
      if (by === undefined) continue;
      const option = kit.options.find(({ key }) => key === by);
      expect(option, say).toBeDefined();
      expect(from, say).toBe(option!.from);
    }
  });
  it('what decides something only while another is on names a flag of the same kit', () => {
    const dependent = kit.options.filter(({ by }) => by !== undefined);
    expect(dependent.length).toBeGreaterThan(6);
    for (const { key, by } of dependent)
      expect([key, kit.options.find((option) => option.key === by)?.kind]).toEqual([key, 'flag']);
  });
  it('every part it leaves alone is named with an option that is there, or with none', () => {
    for (const { part, by } of kit.hears)
      expect(by === undefined || kit.options.some(({ key }) => key === by), part).toBe(true);
  });
  it('no advice feeds a fan from a supply whose voltage it does not name', () => {
    for (const { part, without } of kit.hears)
      if (part.startsWith('fan')) expect(without).not.toMatch(/straight from the supply/);
  });
});

describe('sleeves for the main supply', () => {
  it('are on the table when the board changes, beside those of the heaters', () => {
    const job = ploverJob();
    const before = factsOf(job.before);
    const tail = ripple(before, job.changes);
    const after = factsOf(tail.after);
    const count = (list: ReturnType<typeof needs>) =>
      list
        .filter(({ what }) => what.startsWith('ferrules'))
        .reduce((sum, need) => sum + (need.count ?? 0), 0);
    expect(count(needs(before, after, tail))).toBe(6);
  });
});

describe('G-code written from the settings', () => {
  it.each(MACHINES)('is understood by the kit it is written for, at both ends: %s', (id) => {
    for (const catalogue of [earlierKit, wholeKit]) {
      const facts = factsOf(demoMachine(id), catalogue);
      const settings = derive(facts);
      for (const text of [writeStartCode(facts, settings), writeEndCode(facts, settings)]) {
        expect(readGcode(text).length).toBeGreaterThan(3);
        expect(
          readStartCode(text, facts, settings).filter(({ id: check }) => check === 'start.not-known'),
        ).toEqual([]);
      }
      expect(readStartCode(writeStartCode(facts, settings), facts, settings)).toEqual([]);
    }
  });
});
