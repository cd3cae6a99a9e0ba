import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Catalogue } from '../src/catalogue/catalogue';
import { applyEdits, type Edit } from '../src/machine/edit';
import { derive } from '../src/settings/derive';
import { directionDoctor, type Observation } from '../src/settings/directionDoctor';
import { leftToSlicer, readGcode } from '../src/slicer/gcodeLine';
import { readEndCode } from '../src/slicer/readEndCode';
import { readStartCode } from '../src/slicer/readStartCode';
import { writeEndCode, writeStartCode } from '../src/slicer/writeStartCode';
import { demoMachine, earlierKit, factsOf, installed, own, wholeKit } from './fixtures/demo';
import { TWO_EXTRUDERS } from './fixtures/twoExtruders';

const settingsWith = (catalogue: Catalogue, machine: string, ...list: Edit[]) => {
  const facts = factsOf(applyEdits(demoMachine(machine), list), catalogue);
  return { facts, settings: derive(facts) };
};
const settingsAfter = (machine: string, ...list: Edit[]) =>
  settingsWith(installed.catalogue, machine, ...list);

describe('start and end G-code', () => {
  it.each(['plover', 'bittern', 'dunlin'])('what is written for %s reads back without a problem', (id) => {
    for (const catalogue of [earlierKit, installed.catalogue])
      for (const rule of ['left-off', 'restored', 'probed-afresh']) {
        const { facts, settings } = settingsWith(catalogue, id, own('map.after-home', rule));
        const start = writeStartCode(facts, settings);
        expect(readStartCode(start, facts, settings)).toEqual([]);
        const end = writeEndCode(facts, settings);
        expect(readEndCode(end, facts, settings)).toEqual([]);
        expect(end).toContain('M104 S0');
      }
  });
  it('promises no map that the kit has not', () => {
    const { facts, settings } = settingsWith(earlierKit, 'plover', own('map.after-home', 'restored'));
    expect(writeStartCode(facts, settings)).toContain('; no bed map: Lantern 0.1.0 has none yet');
    expect(writeStartCode(facts, settings)).not.toContain('by itself');
    const later = settingsWith(wholeKit, 'plover', own('map.after-home', 'restored'));
    expect(writeStartCode(later.facts, later.settings)).toContain('takes up the stored map by itself');
  });
  it('a command that this version, or these settings, do not know is said', () => {
    const { facts, settings } = settingsWith(earlierKit, 'plover');
    const said = (text: string) =>
      readStartCode(`G28\n${text}`, facts, settings)
        .filter(({ id }) => id === 'start.not-known')
        .map(({ what }) => what);
    for (const code of ['G29', 'M303 E0 S200', 'M600', 'T5', 'G999', 'START BED=60'])
      expect(said(code)).toEqual([expect.stringMatching(/^Lantern 0.1.0 does not know /)]);
    expect(said('M106 S255')).toEqual([
      'M106 is for the part fan; Lantern 0.1.0 cannot do that, 0.2.0 will.',
    ]);
    expect(said('map use')).toHaveLength(1);
    expect(said('offset x=-38 y=-9\n{if hot}\n; a remark\nM104 S[first]')).toEqual([]);
    const bare = settingsAfter('dunlin');
    expect(readStartCode('G28\nM401', bare.facts, bare.settings)[0]!.what).toBe(
      'M401 is for letting the probe out, which is off on this machine (probe.kind).',
    );
  });
  it('knows each of its mistakes by line', () => {
    const { facts, settings } = settingsWith(wholeKit, 'plover', own('map.after-home', 'left-off'));
    const said = (text: string) =>
      readStartCode(text, facts, settings).map(({ id, line }) => `${id} ${line}`);
    expect(said('G28\nmap use\nG28 Z')).toEqual(['map.start-code 2']);
    expect(said('G28 X Y\nmap use')).toEqual(['start.no-home 2']);
    expect(said('G28\nmap use\nM190 S500\nG1 Y-9')).toEqual(['start.over-limit 3', 'start.outside 4']);
    expect(said('G28\nmap use\nG91\nG1 Y-9')).toEqual([]);
    expect(said('')).toContain('start.no-home 0');
  });
  it('says what an end leaves hot, what it asks for in vain, and where it goes that is not there', () => {
    const { facts, settings } = settingsAfter('plover');
    const said = (text: string) =>
      readEndCode(text, facts, settings).map(({ line, what }) => `${line} ${what}`);
    const soon = (line: number) =>
      `${line} The hot end’s heat goes off while the last moves of the print still wait.`;
    expect(said('M400\nM104 S0\nM140 S0')).toEqual([]);
    expect(said('M104 S0\nM400\nM140 S0')).toEqual([soon(1)]);
    // A line that the board refuses waits for nothing; the bed stays warm for longer than any move.
    expect(said('M140 S0\nT0\nM104 S0')).toEqual([
      expect.stringMatching(/^2 T0 is for choosing the first of two extruders, which is off/),
      soon(3),
    ]);
    expect(said('M140 S0\nG28 X\nM104 S0')).toEqual([]);
    expect(said('M400\nM104 S0\nM140 S[warm]')).toEqual(['3 The bed is left as hot as your slicer says.']);
    expect(said('M84\nM104 S0\nM140 S0\nM104 S120')).toEqual(['4 The hot end is left at 120 °C.']);
    expect(said('M84')).toEqual([
      '0 The hot end stays as hot as it was.',
      '0 The bed stays as hot as it was.',
    ]);
    expect(said('M400\nM104 S0\nM140 S0\nG999\nG1 Y-500')).toEqual([
      expect.stringMatching(/^4 .*does not know G999/),
      expect.stringMatching(/^5 Y is sent to -500 mm/),
    ]);
  });
  it('tells words that do not belong, numbers that are missing, and what the board cannot read', () => {
    const { facts, settings } = settingsAfter('plover');
    const said = (line: string) => readStartCode(`G28\n${line}`, facts, settings).filter((problem) => problem.line === 2).map(({ what }) => what); // prettier-ignore
    expect(said('M190 R60')).toEqual(['M190 takes no R.']);
    expect(said('M104')).toEqual(['M104 needs S with a number.']);
    expect(said('M104 S')).toEqual(['M104 needs a number behind S.']);
    expect(said('M106 S300')).toEqual(['S is 300; M106 takes 0 to 255.']);
    expect(said('G28 X0')).toEqual(['X stands alone behind G28, without a number.']);
    expect(said('G1 X1 X2')).toEqual(['The board cannot read it: X is there twice.']);
    expect(said('G1 X1,Y2')).toEqual(['The board cannot read it: “,Y2” is neither a letter nor a number.']);
    expect(said('G1X1Y2')).toEqual([]);
    expect(readStartCode('G28 X X', facts, settings).map(({ id }) => id)).toEqual(['start.not-known', 'start.no-home']); // prettier-ignore
    expect(said('M104 S[first] T{tool}')).toEqual(['M104 takes no T.']);
    expect(readStartCode('g28\nG1 X5', facts, settings).map(({ line, what }) => `${line} ${what}`)).toEqual([
      '1 The board cannot read it: it is written in small letters; the board knows capitals.',
      '2 It moves before it homes.',
    ]); // prettier-ignore
  });
  it('follows how it stands: homed, where, how hot, and how filament is counted', () => {
    const { facts, settings } = settingsAfter('plover');
    const said = (code: string) => readStartCode(code, facts, settings).map(({ line, what }) => `${line} ${what}`);
    const HOT = 'G28\nM109 S200\n';
    const COLD = 'It moves filament, and no line before it waits for the hot end.';
    expect(said('G28\nM104 S200\nG1 E5\nG1 E5')).toEqual([`3 ${COLD}`]);
    expect(said('G28\nM109 S90\nG1 E5')).toEqual(['3 It moves filament when the hot end was waited for at 90 °C.']);
    expect(said('G28\nM109 S[first]\nG1 E5')).toEqual([]);
    expect(said(`${HOT}M83\nG1 E0\nG1 X9 E5`)).toEqual([]);
    expect(said(`${HOT}M83\nG1 E201`)).toEqual(['4 It moves 201 mm of filament at once; the board takes 200 mm.']);
    // Absolute, only what stands between is moved.
    expect(said(`${HOT}M82\nG92 E150\nG1 E300\nG1 E50`)).toEqual(['6 It moves 250 mm of filament at once; the board takes 200 mm.']);
    expect(said(`${HOT}M82\nG1 E300`)).toEqual([]);
    expect(said('G28\nM84\nG1 X5\nG1 X6')).toEqual(['3 It moves, and is not homed any more since M84 in line 2.']);
    expect(said('G28\nM84')).toEqual(['2 After it X, Y and Z are not homed any more.']);
    expect(said('G28\nM92 X81')).toEqual(['2 After it X is not homed any more.']);
    expect(said('M84\nM92 X81\nG1 X5')).toEqual(['3 It moves before it homes.']);
    expect(said('M92 X81 E400\nG28\nM92 E410\nG1 X5')).toEqual([]);
    expect(said('G28 Z\nG28 X Y')).toEqual(['1 It needs X and Y homed before it.']);
    expect(said('map take\nG28')).toEqual(['1 It needs X, Y and Z homed before it.']);
    expect(said('G28\nG1 X200\nG91\nG1 X30\nG1 X30')).toEqual(['5 X is sent to 260 mm; its travel is -6 to 236 mm.']);
    expect(said('G28\nG1 X235.9\nG91\nG1 X0.05\nG1 X0.15')).toEqual(['5 X is sent to 236.1 mm; its travel is -6 to 236 mm.']);
    expect(said('G28\nG91\nG1 X-243')).toEqual(['3 X is sent -243 mm along; its travel is -6 to 236 mm.']);
    expect(said('G28\nmove by x=243')).toEqual(['2 X is sent 243 mm along; its travel is -6 to 236 mm.']);
    expect(said('G28\nG1 X5 F0')).toEqual(['2 F is 0 mm/min; it must be above 0.']);
    expect(said('G28\nnudge z=3\nnudge q=1\nnudge 0.1')).toEqual(['2 z is 3; nudge takes -2 to 2.', '3 nudge takes no q.', expect.stringMatching(/^4 .*does not know nudge 0.1/)]);
    expect(said('G28\nnudge z={first + 0.1}')).toEqual([]);
    const lifted = settingsAfter('plover', own('limits.lift', true));
    const below = (z: number) => readStartCode(`G28\nlimits off\nG1 Z${z}\nlimits on\nG1 Z-1`, lifted.facts, lifted.settings).map(({ line }) => line);
    expect([below(-3), below(-3.1)]).toEqual([[5], [3, 5]]);
    const warm = settingsAfter('plover', own('extrude.from', 0));
    expect(readStartCode('G28\nG1 E5', warm.facts, warm.settings)).toEqual([]);
    const ended = readEndCode('M400\nM104 S0\nM140 S0\nG91\nG1 E-2\nG1 Z5\nM84\nG1 X5', facts, settings);
    expect(ended.map(({ line, what }) => `${line} ${what}`)).toEqual(['8 It moves, and is not homed any more since M84 in line 7.']);
  }); // prettier-ignore
  it('of two hot ends the one of the tool in use has to be hot', () => {
    const { facts, settings } = settingsAfter('bittern', ...TWO_EXTRUDERS);
    const cold = (code: string) => readStartCode(`G28\n${code}`, facts, settings).filter(({ id }) => id === 'start.cold').map(({ line, what }) => `${line} ${what}`); // prettier-ignore
    expect(cold('M109 S200\nG1 E5')).toEqual([]);
    expect(cold('M109 S200\nT1\nG1 E5\nT0\nG1 E5')).toEqual([
      '4 It moves filament, and no line before it waits for the second hot end.',
    ]);
    expect(cold('M109 S200 T1\nT1\nG1 E5\nT0\nG1 E5')).toEqual([
      '6 It moves filament, and no line before it waits for the hot end.',
    ]);
  });
  it('tells the lines whose words the slicer fills in', () => {
    expect(leftToSlicer('G28\nM104 S[first] ; warm\n{if hot}\nG1 X10 ; [not said]\nM140 S60 (a <remark>)')).toEqual([2, 3]); // prettier-ignore
  });
  it('survives any text', () => {
    const { facts, settings } = settingsAfter('plover');
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        readStartCode(text, facts, settings);
        readEndCode(text, facts, settings);
        expect(readGcode(text).length).toBe(text.split(/\r?\n/).length);
      }),
      { examples: [['constructor\n__proto__\ntoString x=1']] },
    );
  });
});

describe('directions doctor', () => {
  const doctor = (machine: string, observed: [string, string][], ...list: Edit[]) => {
    const { facts, settings } = settingsAfter(machine, ...list);
    return directionDoctor(
      facts,
      settings,
      observed.map(([asked, moved]) => ({ asked, moved }) as Observation),
    );
  };
  it('one motor an axis: a wrong way turns the fact, and the setting with it', () => {
    const found = doctor('plover', [
      ['+x', '-x'],
      ['+y', '+y'],
    ]);
    if (found.kind !== 'change') throw new Error(found.kind);
    expect(found.steps).toHaveLength(1);
    const before = settingsAfter('plover').settings.get('direction.x')!.value;
    const after = settingsAfter('plover', ...found.steps[0]!.edits).settings.get('direction.x')!.value;
    expect(after).toBe(!before);
  });
  it('a value of its own that stands against the facts is taken away first', () => {
    const found = doctor('plover', [['+y', '-y']], own('direction.y', false));
    expect(found).toMatchObject({
      kind: 'change',
      steps: [{ edits: [{ path: ['settings', 'direction.y'] }] }],
    });
  });
  it('an axis that answers for another has the plugs exchanged', () => {
    expect(doctor('plover', [['+x', '+y']])).toMatchObject({
      kind: 'change',
      steps: [{ what: expect.stringContaining('Exchange') as string }],
    });
  });
  it('right once and wrong once is a contradiction; nothing is a dead motor', () => {
    expect(
      doctor('plover', [
        ['+x', '+x'],
        ['-x', '+x'],
      ]).kind,
    ).toBe('contradiction');
    expect(doctor('plover', [['+z', 'nothing']])).toMatchObject({ kind: 'dead', axis: 'z' });
    expect(doctor('plover', [['+z', '+z']]).kind).toBe('fine');
  });
  it('an axis that stands still does not hide what the others need', () => {
    const found = doctor('plover', [
      ['+z', 'nothing'],
      ['+x', '-x'],
      ['+e', '-e'],
    ]);
    if (found.kind !== 'change') throw new Error(found.kind);
    expect(found.steps).toHaveLength(2);
    expect(found.also).toHaveLength(1);
    expect(found.also[0]).toMatch(/Z/);
  });
  it('two motors on one belt are judged together, and need both', () => {
    expect(doctor('bittern', [['+x', '+y']]).kind).toBe('more');
    expect(
      doctor('bittern', [
        ['+x', '+x'],
        ['+y', '+y'],
      ]).kind,
    ).toBe('fine');
    expect(
      doctor('bittern', [
        ['+x', '+x+y'],
        ['+y', '+x+y'],
      ]).kind,
    ).toBe('dead');
    const plugs = doctor('bittern', [
      ['+x', '+x'],
      ['+y', '-y'],
    ]);
    expect(plugs).toMatchObject({
      kind: 'change',
      steps: [{ what: expect.stringContaining('Exchange') as string }],
    });
  });
});
