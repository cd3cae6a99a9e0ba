import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SHIPPED_DIALECTS } from '../src/report/shippedDialects';
import { applyEdits } from '../src/machine/edit';
import { carryOver, foreignDump } from '../src/settings/carryOver';
import { dialectSchema } from '../src/report/dialect';
import { dumpRefusal, parseDump } from '../src/report/parseDump';
import { LONGEST_DUMP } from '../src/text/limits';
import { numbersIn, teachLine } from '../src/report/teachLine';
import { planned } from '../src/ripple/replan';
import { demoMachine, factsOf, installed, partIndex } from './fixtures/demo';
import { changes, drawer, ploverJob } from './fixtures/job';

const values = (text: string) =>
  parseDump({ text }).values.map(({ key, value, unit, tool }) =>
    tool === undefined ? [key, value, unit] : [key, value, unit, tool],
  );
const unread = (text: string) => parseDump({ text }).unread.map(({ line }) => line);

describe('parseDump', () => {
  it('reads settings whatever stands before them', () => {
    for (const prefix of ['', 'setting ', '> ', 'board:', '19:41:07 got  ', '[2026-11-25 10:00] ', 'N12 '])
      expect(values(`${prefix}M92 X80.00 Y-2 E.5`)).toEqual([
        ['steps.x', 80, 'steps/mm'],
        ['steps.y', -2, 'steps/mm'],
        ['steps.e', 0.5, 'steps/mm'],
      ]);
    expect(values('N3 M92 X80*52')).toEqual([['steps.x', 80, 'steps/mm']]);
  });
  it('passes over comments and blank lines, and shows every line it does not read', () => {
    expect(
      unread(
        '; steps\n\nboard: ; steps per mm\nM92 X80 ; here\nM117 Hello\npanel bright\nM92 X80 huh?\nboard: M92',
      ),
    ).toEqual([5, 6, 7, 8]);
    expect(unread('t=1 got ; a comment\nt=1 got M92 X80')).toEqual([]);
    expect(unread('t=1 got words\nt=1 got M92 X80')).toEqual([1]);
  });
  it('goes by the units in force', () => {
    expect(
      values('G20\nM92 X2032\nM203 X8\nG21\nM203 Y200\ndegrees in fahrenheit\nwarm 1: nozzle 390 plate 140'),
    ).toEqual([
      ['steps.x', 2032, 'steps/in'],
      ['speed.x', 8, 'in/s'],
      ['speed.y', 200, 'mm/s'],
      ['preset.one.hotend', 390, '°F'],
      ['preset.one.bed', 140, '°F'],
    ]);
  });
  it('tells tools apart, and volumetric from millimetre', () => {
    expect(values('M92 T0 E400\nM92 T1 E420\nM301 E1 P20 I1 D60')).toEqual([
      ['steps.e', 400, 'steps/mm', 0],
      ['steps.e', 420, 'steps/mm', 1],
      ['pid.hotend.p', 20, '', 1],
      ['pid.hotend.i', 1, '', 1],
      ['pid.hotend.d', 60, '', 1],
    ]);
    expect(values('M92 X80 E140\nM203 E25\nM200 D1.75').slice(0, 3)).toEqual([
      ['steps.x', 80, 'steps/mm'],
      ['steps.e', 140, 'steps/mm³'],
      ['speed.e', 25, 'mm³/s'],
    ]);
    expect(values('M200 S0 D1.75\nM92 E140')[2]).toEqual(['steps.e', 140, 'steps/mm']);
    expect(values('M200 D0\nM92 E140')[1]).toEqual(['steps.e', 140, 'steps/mm']);
  });
  it('says the line of each value and never −0', () => {
    expect(parseDump({ text: '\nM206 X-0' }).values).toEqual([
      { key: 'home.shift.x', axis: 'x', value: 0, unit: 'mm', line: 2, name: 'Shift of the X home place' },
    ]);
  });
  it('every line of any text is read, a comment, blank, or shown', () => {
    const line = fc.oneof(
      fc.string(),
      fc.stringMatching(/^[GMT]\d{1,3}( [XYZEPIDST]-?\d{1,3}(\.\d)?){0,4}$/),
    );
    fc.assert(
      fc.property(fc.array(line), (lines) => {
        const text = lines.join('\n');
        const dump = parseDump({ text });
        const count = text.split(/\r\n|\r|\n/).length;
        for (const { line: at } of [...dump.values, ...dump.unread]) expect(at).toBeLessThanOrEqual(count);
        for (const entry of dump.values) expect(Number.isFinite(entry.value)).toBe(true);
        expect(dump.unread.map((entry) => entry.line)).toEqual([
          ...new Set(dump.unread.map((entry) => entry.line)),
        ]);
      }),
      { numRuns: 300 },
    );
  });
  it('what cannot be a report is refused in words', () => {
    expect(dumpRefusal('M92 X80')).toBeUndefined();
    expect(dumpRefusal('')).toContain('empty');
    expect(dumpRefusal('hello\nthere')).toContain('no setting was found');
    expect(dumpRefusal('\0\u0001\u0002M92 X80')).toContain('not text');
    expect(dumpRefusal('x'.repeat(5_000_000))).toContain(`at most ${LONGEST_DUMP}`);
  });
});

describe('a report with noise in it', () => {
  it('is read where it can be, and shows the rest', () => {
    const text = '\0\u0001boot\u0002\n\ufffd\ufffdM92 X80\nM92 X80 Y80\n\u0007M203 X2\n';
    expect(dumpRefusal(text)).toBeUndefined();
    expect(values(text).map(([key]) => key)).toEqual(['steps.x', 'steps.y']);
    expect(unread(text)).toEqual([1, 2, 4]);
  });
  it('a line far too long is shown, not read', () => {
    expect(unread(`M92 X80\nM92 X${'1'.repeat(500)}`)).toEqual([2]);
  });
});

describe('dialects', () => {
  const line = '19:41:07 got  pause lifts 12 draws 75';
  const dump = parseDump({ text: `19:41:07 got  M92 X80\n${line}` });
  it('the shipped ones are those of the catalogue', () => {
    expect(SHIPPED_DIALECTS).toEqual(installed.catalogue.dialects);
  });
  it('an unread line says where it begins behind what all lines begin with', () => {
    expect(dump.unread).toEqual([{ line: 2, text: line, from: line.indexOf('pause') }]);
  });
  it('a line that is taught is read from then on', () => {
    const said = line.slice(dump.unread[0]!.from);
    expect(numbersIn(said).map(({ text }) => text)).toEqual(['12', '75']);
    const lift = { key: 'park.lift', unit: 'mm' };
    const taught = teachLine(said, [lift, 'not taken'])!;
    expect(taught).toEqual({ text: 'pause lifts # draws #', values: [lift, null] });
    const dialects = [
      ...SHIPPED_DIALECTS,
      { jolly: 'dialect/1' as const, id: 'own', name: 'Own', lines: [taught] },
    ];
    const read = parseDump({ text: 'x: pause  lifts 8.5 draws 3', dialects });
    expect(read).toEqual({ values: [{ key: 'park.lift', value: 8.5, unit: 'mm', line: 1 }], unread: [] });
    expect(parseDump({ text: 'pause lifts 8.5', dialects }).unread).toHaveLength(1);
  });
  it.each(['#'.repeat(20), 'x#1#', '#.-#'])('numbers that run into one another are no line: %s', (text) => {
    const values = [...text].filter((letter) => letter === '#').map(() => ({ key: 'park.lift', unit: 'mm' }));
    const dialect = { jolly: 'dialect/1', id: 'own', name: 'Own', lines: [{ text, values }] };
    expect(dialectSchema().validate(dialect).error?.message).toContain('need a word or a sign between them');
  });
  it('nothing to know a line by, or no setting chosen, is no dialect line', () => {
    const lift = { key: 'park.lift', unit: 'mm' };
    expect(teachLine('12 75', [lift, lift])).toBeUndefined();
    expect(teachLine('pause 12', ['fixed'])).toBeUndefined();
    expect(teachLine('pause 12', ['not taken'])).toBeUndefined();
  });
  it('whatever is taught of a line reads that line, with the numbers that were marked', () => {
    const words = fc.stringMatching(/^[a-z]{2,8}$/);
    const number = fc.integer({ min: -999, max: 999 }).map((value) => value / 4);
    fc.assert(
      fc.property(fc.array(fc.tuple(words, number), { minLength: 1, maxLength: 4 }), (pairs) => {
        const text = pairs.map(([word, value]) => `${word} ${value}`).join(' ');
        const taught = teachLine(
          text,
          pairs.map((_, index) => ({ key: 'park.lift', unit: `${index}` })),
        )!;
        const dialect = { jolly: 'dialect/1' as const, id: 'own', name: 'Own', lines: [taught] };
        const read = parseDump({ text, dialects: [dialect] }).values;
        expect(read.map(({ value }) => value)).toEqual(pairs.map(([, value]) => value));
      }),
    );
  });
});

describe('what carries over', () => {
  const job = ploverJob();
  const before = factsOf(job.before);
  const dump = parseDump({ text: drawer('plover/plover-settings.txt').toString() });
  const rows = (...told: Parameters<typeof changes>) => {
    const after = factsOf(planned(job.before, changes(...told), installed.catalogue));
    return new Map(carryOver(before, after, dump).map((row) => [row.dump.key, row]));
  };
  const plover = new Map(
    carryOver(before, factsOf(demoMachine('plover')), dump).map((row) => [row.dump.key, row]),
  );
  it('measured extruder steps, since rollers, gears and microsteps stay', () => {
    expect(plover.get('steps.e')).toMatchObject({ verdict: 'carry', proposed: 341.6 });
  });
  it('not PID across another board, heater, sensor or supply', () => {
    expect(plover.get('pid.hotend.p')).toMatchObject({
      verdict: 'measure again',
      because: expect.stringContaining('the board') as string,
    });
    expect(
      rows({ kind: 'heater', body: 'hotend', part: 'cartridge-24-60' }).get('pid.hotend.p')!.because,
    ).toContain('heater');
    expect(rows({ kind: 'thermistor', body: 'bed', part: 't10-c' }).get('pid.bed.p')!.verdict).toBe(
      'measure again',
    );
    expect(rows({ kind: 'supply', volts_v: 24, amps_a: 20 }).get('pid.bed.p')!.because).toContain(
      'the supply',
    );
    expect(
      rows({ kind: 'drivers', part: 'hush-plain', axes: ['x'], microsteps: 16 }).get('pid.bed.p'),
    ).toMatchObject({ verdict: 'carry', proposed: 72.1 });
  });
  it('extruder steps only scaled to new microsteps and gears; not across other rollers', () => {
    expect(
      rows({ kind: 'drivers', part: 'hush-plain', axes: ['e'], microsteps: 32 }).get('steps.e'),
    ).toMatchObject({ verdict: 'rescale', proposed: 683.2 });
    const drive = (part: object) => ({
      kind: 'extruder-drive' as const,
      drive: { ...job.before.axes.e, ...part },
    });
    expect(rows(drive({ gear_ratio: 7 }) as never).get('steps.e')).toMatchObject({
      verdict: 'rescale',
      proposed: 683.2,
      because: expect.stringContaining('gear ratio 3.5 become 7') as string,
    });
    expect(rows(drive({ diameter_mm: 9 }) as never).get('steps.e')!.verdict).toBe('measure again');
  });
  it('nothing that facts decide, and each row says why', () => {
    expect(plover.get('accel.x')).toMatchObject({ verdict: 'leave', had: 1000 });
    expect(plover.get('steps.x')!.verdict).toBe('same');
    expect(plover.get('home.shift.z')).toMatchObject({
      verdict: 'no option',
      dump: { name: 'Shift of the Z home place' },
    });
    for (const row of plover.values()) expect(row.because.length).toBeGreaterThan(5);
  });
  it('inches are brought to millimetres first', () => {
    const inches = parseDump({ text: 'G20\nM92 X2540\nM92 E8676.64' });
    const [x, e] = carryOver(before, factsOf(demoMachine('plover')), inches);
    expect(x).toMatchObject({ verdict: 'same', had: 100 });
    expect(e!.proposed).toBeCloseTo(341.6, 6);
  });
  it('milliamperes, flags and degrees are brought to the kit’s own units', () => {
    expect(plover.get('current.x')).toMatchObject({ had: 0.78 });
    expect(plover.get('filament.volumetric')).toMatchObject({ had: false, verdict: 'same' });
    expect(plover.get('corner.jolt.x')).toMatchObject({ had: 9 });
    expect(plover.get('preset.two.bed')).toMatchObject({ had: 85 });
    for (const { because } of plover.values()) expect(because).not.toMatch(/it is in |wants/);
    const warm = parseDump({ text: 'degrees in fahrenheit\nwarm 1: nozzle 392 plate 140' });
    const rows = carryOver(before, before, warm);
    expect(rows.map(({ had }) => had)).toEqual([200, 60]);
  });
  it('an offset goes with its mount', () => {
    const machine = demoMachine('plover');
    const report = parseDump({ text: 'offset x=-38.4 y=-9 z=-2.1' });
    const same = carryOver(factsOf(machine), factsOf(machine), report);
    expect(same[0]).toMatchObject({ verdict: 'carry', proposed: -38.4 });
    const moved = applyEdits(machine, [{ path: ['probe_mount', 'side_mm'], value: 20 }]);
    expect(carryOver(factsOf(machine), factsOf(moved), report)[0]).toMatchObject({
      verdict: 'measure again',
    });
    expect(carryOver(factsOf(machine), factsOf(machine), report, ['nozzle'])[2]!.because).toContain(
      'the nozzle',
    );
  });
  it('a report of another machine is recognised as unlikely', () => {
    expect(foreignDump(before, dump)).toEqual({ unlikely: false, evidence: [] });
    const foreign = foreignDump(factsOf(demoMachine('dunlin')), dump);
    expect(foreign.unlikely).toBe(true);
    expect(foreign.evidence.join()).toContain('Y: 80 steps/mm in the report');
    const micro = applyEdits(job.before, [
      { path: ['parts', partIndex('plover', 'x-driver'), 'microsteps'], value: 32 },
    ]);
    expect(foreignDump(factsOf(micro), dump)).toMatchObject({
      unlikely: false,
      evidence: [expect.stringContaining('X') as string],
    });
  });
});
