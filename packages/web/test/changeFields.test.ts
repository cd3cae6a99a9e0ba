import { CHANGE_KINDS, type ChangeKind, changeSchema, type Facts, ripple } from '@jolly/core';
import { describe, expect, it } from 'vitest';
import { demoMachine, factsOf, installed } from '../../core/test/fixtures/demo';
import { afterField, blankChange, changeFields, valueAt } from '../src/stations/survey/changeFields';
import { changeInWords } from '../src/stations/survey/changeInWords';

const { catalogue } = installed;
const machines = ['plover', 'bittern', 'dunlin'].map((id): Facts => factsOf(demoMachine(id)));
const problemOf = (change: unknown) => changeSchema.validate(change, { convert: false }).error?.message;

describe('the form of a change', () => {
  it.each(CHANGE_KINDS)('%s begins from the machine as it is, and is whole from the first moment', (kind) => {
    for (const facts of machines) {
      const change = blankChange(kind, facts, []);
      expect(problemOf(change)).toBeUndefined();
      for (const field of changeFields(change, facts)) {
        if (field.kind !== 'text' && !(kind === 'dual-z' && field.path[0] === 'socket'))
          expect(valueAt(change, field.path)).toBeDefined();
        if (field.kind === 'choice' && field.path[0] !== 'landing')
          expect(field.choices!.length).toBeGreaterThan(0);
      }
    }
  });
  it.each(CHANGE_KINDS)('%s stays whole whichever choice is made', (kind) => {
    for (const facts of machines) {
      const change = blankChange(kind, facts, []);
      for (const field of changeFields(change, facts)) {
        for (const { value } of field.choices ?? []) {
          const picked = field.numeric ? Number(value) : value.startsWith('{') ? JSON.parse(value) : value;
          expect(problemOf(afterField(change, field.path, picked, facts))).toBeUndefined();
        }
        if (field.kind === 'number')
          expect(problemOf(afterField(change, field.path, 12, facts))).toBeUndefined();
      }
    }
  });
  it('every kind can be put in words and computed, on every machine of the demo', () => {
    for (const facts of machines)
      for (const kind of CHANGE_KINDS) {
        const change = blankChange(kind, facts, []);
        expect(changeInWords(change, facts)).not.toContain('undefined');
        expect(() => ripple(facts, [change], catalogue)).not.toThrow();
      }
  });
  it('another board brings its own revisions; another axis its own drive', () => {
    const [plover] = machines as [Facts];
    const board = afterField(blankChange('new-board', plover, []), ['board'], 'harrow-h6', plover);
    expect(board).toMatchObject({ board: 'harrow-h6', revision: 'A' });
    const revisions = changeFields(board, plover).find((field) => field.path[0] === 'revision')!;
    expect(revisions.choices!.map((choice) => choice.value)).toEqual(['A', 'B']);
    const drive = afterField(blankChange('drive', plover, []), ['axis'], 'z', plover);
    expect(drive).toMatchObject({ drive: { kind: 'screw', lead_mm: 8 } });
    expect(changeFields(drive, plover).map((field) => field.path.at(-1))).toContain('lead_mm');
  });
  it('a second change of a kind gets an id of its own', () => {
    const [plover] = machines as [Facts];
    const kind: ChangeKind = 'fan';
    const first = blankChange(kind, plover, []);
    expect(blankChange(kind, plover, [first.id]).id).not.toBe(first.id);
  });
  it('a probe is offered every header with a contact for each of its leads', () => {
    const [plover, bittern] = machines as [Facts, Facts];
    const labels = (facts: Facts) =>
      changeFields(blankChange('probe-replugged', facts, []), facts)[0]!.choices!.map(
        (choice) => choice.label,
      );
    expect(labels(plover)).toContain('PROBE, bed probe');
    expect(labels(plover).some((label) => label.startsWith('STOP-X'))).toBe(false);
    expect(labels(bittern)).toContain('FEEL, bed probe');
  });
});
