import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdits, type Edit } from '../src/machine/edit';
import { check } from '../src/checks/checks';
import { stopping } from '../src/finding/stopping';
import { choosable, machineDifferences } from '../src/machine/machineDifferences';
import { takeOver } from '../src/tree/differences';
import { valueAt } from '../src/tree/path';
import { compareFiles } from '../src/build/fileDifferences';
import { copyRows } from '../src/settings/copySettings';
import { derive } from '../src/settings/derive';
import { edits as editsBetween } from '../src/find/likeness';
import { find, indexOf, settingIndex } from '../src/find/find';
import { mergeThreeWay } from '../src/tree/mergeThreeWay';
import { type Machine, machineSchema } from '../src/machine/machine';
import { waiveEdit } from '../src/finding/waiver';
import { write } from '../src/build/write';
import { demoMachine, factsOf, installed, own } from './fixtures/demo';

const settingsAfter = (machine: string, ...list: Edit[]) => {
  const facts = factsOf(applyEdits(demoMachine(machine), list));
  return { facts, settings: derive(facts) };
};

/** Small edits that leave a machine file valid. */
const anyEdits = fc.array(
  fc.oneof(
    fc
      .double({ min: 1, max: 400, noNaN: true })
      .map((value): Edit => ({ path: ['axes', 'x', 'max_speed_mm_s'], value })),
    fc.integer({ min: 10, max: 40 }).map((value): Edit => ({ path: ['axes', 'y', 'teeth'], value })),
    fc.constantFrom('hush-plain', 'dray-d1').map((value): Edit => ({ path: ['parts', 4, 'part'], value })),
    fc.boolean().map((value): Edit => own('direction.x', value)),
    fc.string({ maxLength: 20 }).map((value): Edit => ({ path: ['note'], value: `n${value}` })),
    fc.constant<Edit>({ path: ['harness', 'x-switch'] }),
    fc.constant<Edit>({ path: ['probe_mount'] }),
    fc.constant<Edit>({ path: ['parts', 17], value: { id: 'lamp', part: 'lamp-24', role: 'lamp' } }),
  ),
  { maxLength: 6 },
);

describe('differences of two machine files', () => {
  const plover = demoMachine('plover');
  it('taken over, all of them, make one machine the other', () => {
    fc.assert(
      fc.property(anyEdits, anyEdits, (some, others) => {
        const [a, b] = [applyEdits(plover, some), applyEdits(plover, others)];
        const made = takeOver(a, machineDifferences(a, b));
        expect(machineDifferences(made, b)).toEqual([]);
        expect(machineSchema().validate(made).error).toBeUndefined();
      }),
    );
  });
  it('none is left out and none made up: a machine differs from itself in nothing', () => {
    fc.assert(
      fc.property(anyEdits, (list) => {
        const a = applyEdits(plover, list);
        expect(machineDifferences(a, structuredClone(a))).toEqual([]);
        expect(machineDifferences(a, plover).length > 0).toBe(machineDifferences(plover, a).length > 0);
      }),
    );
  });
  it('a setting, a landing and a drive are taken whole', () => {
    const other = applyEdits(plover, [
      own('speed.x', 90),
      { path: ['axes', 'e'], value: { ...plover.axes.e, gear_ratio: 5, diameter_mm: 9 } as never },
    ]);
    expect(machineDifferences(plover, other).map(({ path }) => path.join('.'))).toEqual([
      'axes.e',
      'settings.speed.x',
    ]);
  });
  it('two windows: what each changed alone comes through, what both changed is told', () => {
    const mine = applyEdits(plover, [own('speed.x', 90), { path: ['note'], value: 'mine' }]);
    const theirs = applyEdits(plover, [own('speed.y', 80), { path: ['note'], value: 'theirs' }]);
    const { value, kept } = mergeThreeWay<Machine>(plover, mine, theirs);
    expect(kept).toEqual(['note']);
    expect(Object.keys(value.settings).sort()).toEqual(['speed.x', 'speed.y']);
  });
  it('one setting changed in both is one place to choose about, and its other value is found there', () => {
    const mine = applyEdits(plover, [
      own('speed.x', 90),
      { path: ['parts', 4, 'part'], value: 'hush-plain' },
    ]);
    const theirs = applyEdits(plover, [own('speed.x', 80), { path: ['parts', 4, 'part'], value: 'dray-d1' }]);
    const { met, value } = mergeThreeWay<Machine>(plover, mine, theirs);
    const places = met.map(choosable);
    expect(places).toEqual([
      ['parts', 'x-driver', 'part'],
      ['settings', 'speed.x'],
    ]);
    expect(valueAt(theirs, places[0]!)).toBe('dray-d1');
    const taken = takeOver(
      value,
      places.map((path) => ({ path, to: valueAt(theirs, path) })),
    );
    expect(taken).toEqual(theirs);
  });
});

describe('waivers', () => {
  const said = (...list: Edit[]) => {
    const { facts, settings } = settingsAfter('plover', ...list);
    return check(facts, settings);
  };
  it('a finding set aside stays in the list with its reason, and no longer stops', () => {
    const loud: Edit[] = [own('heat.bed.max', 140)];
    const [finding] = said(...loud);
    const after = said(...loud, waiveEdit(finding!, { because: 'a test stand' }));
    expect(finding!.severity).toBe('stop');
    expect(after[0]).toMatchObject({ id: finding!.id, waived: 'a test stand' });
    expect(stopping(after)).toEqual([]);
    expect(said(...loud, waiveEdit(finding!, { because: 'x' }), waiveEdit(finding!))[0]).not.toHaveProperty(
      'waived',
    );
  });
  it('what was set aside as it was is told again when it is something else', () => {
    const [hot] = said(own('heat.bed.max', 140));
    const aside = waiveEdit(hot!, { because: 'a test stand' });
    expect(stopping(said(own('heat.bed.max', 140), aside))).toEqual([]);
    const [hotter] = stopping(said(own('heat.bed.max', 150), aside));
    expect(hotter).toMatchObject({ id: hot!.id, subject: hot!.subject });
    expect(hotter!.evidence.at(-1)).toBe(`set aside when it was: ${hot!.what} (because a test stand)`);
    // One of before knows nothing of what it was said to.
    const old: Edit = { path: aside.path, value: { because: 'long ago' } };
    expect(stopping(said(own('heat.bed.max', 150), old))).toEqual([]);
  });
  it('a waiver is for one subject only', () => {
    const both = [own('heat.bed.max', 140), own('heat.hotend.max', 295)];
    const bed = said(...both).find(({ subject }) => subject.id === 'heat.bed.max')!;
    expect(stopping(said(...both, waiveEdit(bed, { because: 'x' })))).toHaveLength(1);
  });
  it('a guard that is off asks for the name of the machine', () => {
    const off = own('guard.bed', false);
    const [finding] = said(off);
    expect(stopping(said(off, waiveEdit(finding!, { because: 'no' })))).toHaveLength(1);
    expect(stopping(said(off, waiveEdit(finding!, { because: 'no', machine: 'plover' })))).toHaveLength(1);
    expect(stopping(said(off, waiveEdit(finding!, { because: 'bench only', machine: 'Plover' })))).toEqual(
      [],
    );
  });
});

describe('finding a setting', () => {
  const index = settingIndex(installed.catalogue.kits[0]!);
  const first = (question: string) => find(index, question).map(({ id }) => id);
  it.each([
    ['x steps', 'steps.x'],
    ['steps.x', 'steps.x'],
    ['runs backwards', 'direction.x'],
    ['clicks', 'current.x'],
    ['too hot', 'heat.hotend.max'],
    ['does not stick', 'probe.offset.z'],
    ['thermal runaway', 'guard.hotend'],
    ['endstop inverting x', 'switch.x.pressed'],
    ['mesh', 'map.on'],
    ['bulging corners', 'lead.time'],
  ])('“%s” is answered by %s', (question, key) => {
    expect(first(question).slice(0, 8)).toContain(key);
  });
  it('a unit alone finds what is counted in it', () => {
    const found = first('steps/mm');
    expect(found.length).toBeGreaterThan(3);
    expect(found.every((key) => key.startsWith('steps.'))).toBe(true);
  });
  it('one wrong, missing, doubled or swapped letter in a longer word is forgiven', () => {
    const words = ['thermistor', 'acceleration', 'filament', 'deploy', 'kinematics'];
    const broken = fc.tuple(fc.constantFrom(...words), fc.nat(3), fc.nat(20)).map(([word, how, place]) => {
      const at = 1 + (place % (word.length - 2));
      const letters = [...word];
      if (how === 0) letters.splice(at, 1);
      if (how === 1) letters.splice(at, 0, letters[at]!);
      if (how === 2) [letters[at], letters[at + 1]] = [letters[at + 1]!, letters[at]!];
      if (how === 3) letters[at] = letters[at] === 'q' ? 'w' : 'q';
      return { word, typed: letters.join('') };
    });
    const small = indexOf(words.map((word) => ({ id: word, title: word })));
    fc.assert(
      fc.property(broken, ({ word, typed }) => {
        expect(find(small, typed)[0]?.id).toBe(word);
      }),
    );
  });
  it('of two with one symptom comes first what is to be looked at first, and what has it in its title before both', () => {
    const entry = (id: string, place: number) => ({ id, title: id, symptoms: 'stringing', place });
    const index = indexOf([entry('late', 4), entry('early', 1), { id: 'named', title: 'stringing' }]);
    expect(find(index, 'stringing').map(({ id, by }) => [id, by])).toEqual([
      ['named', undefined],
      ['early', 'symptom'],
      ['late', 'symptom'],
    ]);
  });
  it('edit distance is symmetric, zero only for itself, and stops early', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 8 }), fc.string({ maxLength: 8 }), (a, b) => {
        expect(editsBetween(a, b, 9)).toBe(editsBetween(b, a, 9));
        expect(editsBetween(a, b, 9) === 0).toBe(a === b);
        expect(editsBetween(a, b, 1)).toBe(Math.min(2, editsBetween(a, b, 9)));
      }),
      { examples: [[' |', '|! ']] },
    );
  });
  it('nonsense finds nothing', () => expect(first('xyzzyq')).toEqual([]));
});

describe('generated files against an earlier state', () => {
  const of = (...list: Edit[]) => {
    const { facts, settings } = settingsAfter('plover', ...list);
    return write(facts, settings);
  };
  it('shows the one changed line in its file, linked to its setting', () => {
    const compared = compareFiles(of(), of(own('speed.x', 90)));
    const changed = compared.filter(({ differs }) => differs > 0);
    expect(changed.map(({ path, differs }) => [path, differs])).toEqual([['option_drive.h', 1]]);
    const line = changed[0]!.lines.find(({ kind }) => kind === 'changed')!;
    expect(line.line.key).toBe('speed.x');
    expect(line.was).toContain('200');
  });
  it('nothing differs from itself; a line that went is shown where it stood', () => {
    expect(compareFiles(of(), of()).every(({ differs }) => differs === 0)).toBe(true);
    const lines = ['#define A 1', '#define B 2', '#define C 3'].map((text) => ({ text }));
    const [file] = compareFiles([{ path: 'f', lines }], [{ path: 'f', lines: [lines[0]!, lines[2]!] }]);
    expect(file!.lines.map(({ kind, line }) => [kind, line.text])).toEqual([
      ['same', '#define A 1'],
      ['removed', '#define B 2'],
      ['same', '#define C 3'],
    ]);
  });
});

describe('settings of another machine', () => {
  it('are listed where they differ, with what speaks against taking them', () => {
    const [mine, theirs] = [factsOf(demoMachine('plover')), factsOf(demoMachine('bittern'))];
    const rows = copyRows(mine, derive(mine), theirs, derive(theirs));
    const by = (key: string) => rows.find(({ option }) => option.key === key);
    expect(by('link.baud')).toBeUndefined();
    expect(by('speed.x')).toMatchObject({ mine: 200, theirs: 300 });
    expect(by('speed.x')).not.toHaveProperty('against');
    expect(by('probe.offset.z')!.against).toContain('Bittern');
    expect(by('travel.x.max')!.against).toBeDefined();
    expect(by('steps.x')!.against).toContain('facts');
    expect(copyRows(mine, derive(mine), mine, derive(mine))).toEqual([]);
  });
});
