import { applyEdits } from '@jolly/core/machine/edit';
import { valueAt } from '@jolly/core/tree/path';
import type { Facts } from '@jolly/core/machine/facts';
import type { Landing } from '@jolly/core/machine/landing';
import { CHANGE_KINDS } from '@jolly/core/ripple/changes';
import { ripple } from '@jolly/core/ripple/ripple';
import { type Change, type ChangeKind, changeSchema } from '@jolly/core/ripple/change';
import { voltsAtLead } from '@jolly/core/circuit/loads';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf } from '../../core/test/fixtures/demo';
import { TWO_EXTRUDERS } from '../../core/test/fixtures/twoExtruders';
import { afterField, blankChange, changeFields, keyOfLanding } from '../src/stations/survey/changeFields';
import { stillToChoose, unsaidOf, wholeChanges } from '../src/stations/survey/stillToChoose';
import { changeInWords } from '@jolly/session/changeInWords';

const own = { kind: 'roller', diameter_mm: 7, gear_ratio: 5 } as const;
const twoExtruders = factsOf(applyEdits(demoMachine('bittern'), [...TWO_EXTRUDERS, { path: ['axes', 'e2'], value: own }])); // prettier-ignore
const machines = [...['plover', 'bittern', 'dunlin'].map((id): Facts => factsOf(demoMachine(id))), twoExtruders]; // prettier-ignore
const problemOf = (change: unknown) => changeSchema().validate(change, { convert: false }).error?.message;

/** A change in which the first of the choices is made wherever nobody has chosen yet. */
const chosen = (kind: ChangeKind, facts: Facts): Change => chosenIn(blankChange(kind, facts, []), facts);
function chosenIn(begun: Change, facts: Facts): Change {
  let change = begun;
  while (unsaidOf(change, facts).length > 0) {
    const field = changeFields(change, facts).find(({ path }) => valueAt(change, path) === '')!;
    change = afterField(change, field.path, field.choices![0]!.value, facts);
  }
  return change;
}

describe('the form of a change', () => {
  it.each<[ChangeKind, string[]]>([
    ['new-board', ['Board']],
    ['drivers', ['Part']],
    ['hot-end', ['Heater', 'Thermistor']],
    ['probe-added', ['Part']],
    ['same-part', ['Part']],
    ['feature', ['Feature']],
    ['supply', []],
  ])('%s presets no part that nobody chose', (kind, missing) => {
    for (const facts of machines) {
      const change = blankChange(kind, facts, []);
      expect(unsaidOf(change, facts)).toEqual(missing);
      expect(problemOf(change) === undefined).toBe(missing.length === 0);
      expect(wholeChanges([change], facts)).toEqual(missing.length === 0 ? [change] : []);
    }
  });
  it('what is missing is told by its change; the side of a probe and a relay are asked for too', () => {
    const [plover] = machines as [Facts];
    const probe = afterField(blankChange('probe-added', plover, []), ['part'], 'plumb', plover);
    expect(stillToChoose([probe], plover)).toEqual(['Seen from the front (A bed probe is added)', 'Seen from the side (A bed probe is added)']); // prettier-ignore
    const bed = afterField(blankChange('heater', plover, []), ['part'], 'bed-230-500', plover);
    expect(unsaidOf(bed, plover)).toEqual(['Relay that switches it']);
    expect(unsaidOf(afterField(bed, ['part'], 'bed-24-300', plover), plover)).toEqual([]);
    // What is the nozzle itself hangs on no side of it, and is asked for none.
    const nozzle = afterField(probe, ['part'], 'anvil', plover);
    expect([unsaidOf(nozzle, plover), problemOf(nozzle)]).toEqual([[], undefined]);
    expect(unsaidOf(afterField(nozzle, ['part'], 'heron', plover), plover)).toHaveLength(2);
  });
  it.each(CHANGE_KINDS)(
    '%s begins from the machine as it is, and is whole once what is not known is chosen',
    (kind) => {
      for (const facts of machines) {
        const change = chosen(kind, facts);
        expect(problemOf(change)).toBeUndefined();
        for (const field of changeFields(change, facts)) {
          if (field.kind !== 'text' && !(kind === 'dual-z' && field.path[0] === 'socket'))
            if (field.optional === undefined) expect(valueAt(change, field.path)).toBeDefined();
          if (field.kind === 'choice' && field.path[0] !== 'landing')
            expect(field.choices!.length).toBeGreaterThan(0);
        }
      }
    },
  );
  it.each(CHANGE_KINDS)('%s stays whole whichever choice is made', (kind) => {
    for (const facts of machines) {
      const change = chosen(kind, facts);
      for (const field of changeFields(change, facts)) {
        for (const { value } of field.choices ?? []) {
          const picked = field.numeric ? Number(value) : value.startsWith('{') ? JSON.parse(value) : value;
          expect(problemOf(chosenIn(afterField(change, field.path, picked, facts), facts))).toBeUndefined();
        }
        if (field.kind === 'number')
          expect(problemOf(afterField(change, field.path, 12, facts))).toBeUndefined();
      }
    }
  });
  it('every kind can be put in words and computed, on every machine of the demo', () => {
    for (const facts of machines)
      for (const kind of CHANGE_KINDS) {
        const change = chosen(kind, facts);
        expect(changeInWords(change, facts)).not.toContain('undefined');
        expect(() => ripple(facts, [change])).not.toThrow();
      }
  });
  it('another board brings its own revisions; another axis its own drive', () => {
    const [plover] = machines as [Facts];
    const board = afterField(blankChange('new-board', plover, []), ['board'], 'harrow-h6', plover);
    expect(board).toMatchObject({ board: 'harrow-h6', revision: '' });
    expect(afterField(board, ['board'], 'pipit-2', plover)).toMatchObject({ revision: '1' });
    const revisions = changeFields(board, plover).find((field) => field.path[0] === 'revision')!;
    expect(revisions.choices!.map((choice) => choice.value)).toEqual(['A', 'B']);
    const drive = afterField(blankChange('drive', plover, []), ['axis'], 'z', plover);
    expect(drive).toMatchObject({ drive: { kind: 'screw', lead_mm: 8 } });
    expect(changeFields(drive, plover).map((field) => field.path.at(-1))).toContain('lead_mm');
  });
  it('of two extruders each has its own drive to begin from', () => {
    const labels = (facts: Facts) => changeFields(blankChange('extruder-drive', facts, []), facts).map(({ label }) => label); // prettier-ignore
    expect(labels(twoExtruders)).toContain('Of');
    for (const facts of machines.slice(0, 3)) expect(labels(facts)).not.toContain('Of');
    const blank = blankChange('extruder-drive', twoExtruders, []);
    const second = afterField(blank, ['of'], 'e2', twoExtruders);
    expect(second).toMatchObject({ of: 'e2', drive: own });
    expect(afterField(second, ['of'], undefined, twoExtruders)).toEqual(blank);
  });
  it('a second change of a kind gets an id of its own', () => {
    const [plover] = machines as [Facts];
    const kind: ChangeKind = 'fan';
    const first = blankChange(kind, plover, []);
    expect(blankChange(kind, plover, [first.id]).id).not.toBe(first.id);
  });
  it('a probe is offered every legal place on the board it will sit on, and keeps the one that is chosen', () => {
    const [plover, bittern] = machines as [Facts, Facts];
    const choices = (facts: Facts, change = blankChange('probe-replugged', facts, [])) =>
      changeFields(change, facts)[0]!.choices!;
    expect(choices(plover)[0]!.label).toContain('PROBE: ');
    expect(choices(plover).some(({ label }) => label.startsWith('STOP-X'))).toBe(false);
    // A probe of 24 V is offered no place that gives it 5 V.
    for (const { value } of choices(bittern)) {
      const { leads } = JSON.parse(value) as { leads: Record<string, string> };
      const gives = voltsAtLead(bittern.board, { leads }, 24, {});
      expect(gives).toBe(24);
    }
    const [third] = choices(bittern).slice(2);
    const chosen = JSON.parse(third!.value) as Extract<Landing, { leads: object }>;
    // The database gives keys back in an order of its own.
    const leads = Object.fromEntries(Object.entries(chosen.leads).reverse());
    const stored = { ...(chosen.with && { with: chosen.with }), leads };
    expect(keyOfLanding(stored)).toBe(third!.value);
  });
  it('an unmeasured mount is empty, and the probe comes without an offset until it is measured', () => {
    const [plover] = machines as [Facts];
    const change = chosen('probe-added', plover);
    expect(valueAt(change, ['mount', 'side_mm'])).toBeUndefined();
    expect(changeInWords(change, plover)).toContain('not measured yet');
    const typed = afterField(
      afterField(change, ['mount', 'side_mm'], 38, plover),
      ['mount', 'face_mm'],
      9,
      plover,
    );
    expect(changeInWords(typed, plover)).toContain('38 mm left, 9 mm to the front');
    const emptied = afterField(typed, ['mount', 'side_mm'], undefined, plover);
    expect(problemOf(emptied)).toBeUndefined();
    expect(valueAt(emptied, ['mount', 'side_mm'])).toBeUndefined();
  });
  it('a mains heater asks for its relay, and one that runs from the supply for none', () => {
    const [plover] = machines as [Facts];
    const bed = afterField(blankChange('heater', plover, []), ['body'], 'bed', plover);
    const mains = chosenIn(afterField(bed, ['part'], 'bed-230-500', plover), plover);
    expect(mains).toMatchObject({ relay: 'sluice-s10' });
    expect(afterField(mains, ['part'], 'bed-24-300', plover)).not.toHaveProperty('relay');
    const { after, consequences } = ripple(plover, [mains]);
    expect(after.harness['bed-heater']).toBeUndefined();
    expect(after.harness['bed-relay']).toEqual({ leads: { supply: 'HEAT-B.1', control: 'HEAT-B.2' } });
    expect(consequences.map(({ title }) => title).join()).toContain('never meets it');
    expect(
      consequences.filter(({ kind, subject }) => kind === 'lead' && subject === 'bed-heater')[0]!.to,
    ).not.toContain('HEAT-B');
  });
});
