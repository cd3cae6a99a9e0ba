import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readImage } from '@jolly/core/image/imageHeader';
import { afterAll, describe, expect, it } from 'vitest';
import { root, throwAway } from './fixtures/server';
import { shareObjects } from './fixtures/sharedObjects';

const data = mkdtempSync(join(tmpdir(), 'jolly-cli-'));
shareObjects(root, join(data, 'cli'));
afterAll(() => throwAway(data));

describe('the command line', () => {
  const jolly = (...words: string[]) => jollyWith([], ...words);
  const jollyWith = (input: string[], ...words: string[]) =>
    jollyOn(input.map((line) => `${line}\n`).join(''), ...words);
  const jollyOn = (input: string, ...words: string[]) =>
    new Promise<{ code: number | null; out: string; err: string }>((resolve) => {
      const child = spawn(process.execPath, [join(root, 'dist/jolly.mjs'), ...words], {
        env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: join(data, 'cli') },
      });
      child.stdin.end(input);
      let out = '';
      let err = '';
      child.stdout.on('data', (text: Buffer) => (out += String(text)));
      child.stderr.on('data', (text: Buffer) => (err += String(text)));
      child.on('exit', (code) => resolve({ code, out, err }));
    });
  const plover = join(root, 'catalogue/demo/plover.yaml');

  it('help and version end with 0, each command has its own, and a call without a command with 2', async () => {
    expect(await jolly('--version')).toMatchObject({ code: 0, out: expect.stringMatching(/^\d+\.\d+\.\d+\n$/) as string });
    const all = await jolly('--help');
    expect(all).toMatchObject({ code: 0, err: '' });
    const names = [...all.out.matchAll(/^ {2}\.\/jolly ([a-z-]+)/gm)].map(([, name = '']) => name);
    expect(names).toEqual(expect.arrayContaining(['check', 'check-data', 'export', 'calc', 'test']));
    for (const name of names.filter((one) => one !== 'test')) {
      const help = await jolly(name, '-h');
      expect(help).toMatchObject({ code: 0, err: '' });
      expect(help.out).toMatch(new RegExp(`^\\./jolly ${name}`));
    }
    expect(await jolly()).toMatchObject({ code: 2, out: '', err: expect.stringContaining('a command is missing') as string });
    expect(await jolly('brew')).toMatchObject({ code: 2, err: expect.stringContaining('no command “brew”') as string });
  }); // prettier-ignore
  it.each([
    [['check', plover, '--jsom'], 'check: unknown flag --jsom; it knows --json'],
    [['check'], 'check: FILE is missing; ./jolly check FILE'],
    [['check', plover, 'b.yaml'], 'check: “b.yaml” is one word too many; ./jolly check FILE'],
    [['check', plover, '--json=yes'], 'check: --json takes no value; it has “yes”'],
    [['build', plover, '--out'], 'build: --out needs DIR behind it: the folder to write to; it is made'],
    [['build', plover, '--out', '--json'], 'build: --out needs DIR behind it: the folder to write to; it is made'],
    [['build', plover, '--out', 'a', '--out', 'b'], 'build: --out is given twice'],
    [['build', plover, '--out', join(plover, 'in')], `${join(plover, 'in')} lies in no folder`],
    [['check', '/'], '/ is a folder'],
    [['check', '/nowhere.yaml', '--json'], '/nowhere.yaml is not there'],
    [['dump', plover, '--dialect', '/nowhere'], '/nowhere is not there'],
    [['wire', plover, '--csv'], 'wire: --csv is the sheet of a swap; it needs --board ID'],
    [['demo', '--port', 'x'], '--port must be a whole number from 0 to 65535'],
    [['import', 'a', '--replace', '--as-another'], 'import: --as-another and --replace do not go together'],
  ])('%j is refused in a sentence', async (words, said) => {
    const json = words.includes('--json');
    const err = `${json ? JSON.stringify({ error: { message: said } }) : said}\n`;
    expect(await jolly(...words)).toEqual({ code: 2, out: '', err });
  }); // prettier-ignore
  it('a text may come from standard input, and the command by another name', async () => {
    const text = readFileSync(plover, 'utf8');
    expect(await jollyOn(text, 'check', '-')).toMatchObject({ code: 0 });
    expect(await jollyOn('{"side":"left","sideMm":38,"face":"front","faceMm":9}', 'calc', 'probeOffset', '-')).toMatchObject({ out: '{"x":-38,"y":-9}\n' }); // prettier-ignore
    expect(await jollyOn('name: [', 'check', '-')).toMatchObject({ code: 2, out: '', err: expect.stringMatching(/^-:\d+:\d+: /) as string }); // prettier-ignore
    const link = join(data, 'linked');
    symlinkSync(join(root, 'jolly'), link);
    const said = spawnSync(link, ['calc', '--list'], { encoding: 'utf8' });
    expect(said).toMatchObject({ status: 0, stderr: '' });
    expect(said.stdout).toContain('probeOffset');
  });
  it('check tells findings and ends with 0, 1 or 2', async () => {
    expect(await jolly('check', plover)).toMatchObject({ code: 0 });
    const { code, out } = await jolly('check', join(root, 'catalogue/demo/bittern.yaml'), '--json');
    expect(code).toBe(0);
    expect(JSON.parse(out).findings.map(({ id }: { id: string }) => id)).toContain('endstop.open-on-break');
    expect(await jolly('check', '/nowhere.yaml')).toMatchObject({ code: 2 });
    expect((await jolly('check', join(root, 'README.md'))).code).toBe(2);
  });
  it('bench carries out lines, tells events with their time, and ends with 0, 1 or 2', async () => {
    const home = await jollyWith(['G28 X', '@truth', '@send M119', '@wait 1'], 'bench', plover);
    expect(home.code).toBe(0);
    const lines = home.out.trim().split('\n');
    for (const line of lines) expect(line).toMatch(/^t=\d+\.\d{3} [<!=] /);
    expect(lines[0]).toContain('! the image was taken as');
    expect(lines.filter((line) => line.endsWith('< done'))).toHaveLength(2);
    const truth = JSON.parse(/ = (\{.*)/.exec(home.out)![1]!);
    expect(truth.position.x).toBeCloseTo(-5, 1);
    expect(truth.blocked).toEqual({ x: 0, y: 0, z: 0 });
    const itself = await jollyWith(
      ['@fault sensor-open', '@wait 5'],
      'bench',
      plover,
      '--json',
      '--seed',
      '3',
    );
    expect(itself.code).toBe(1);
    expect(
      itself.out
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as object),
    ).toContainEqual(expect.objectContaining({ reply: 'stopped: hotend sensor open or too cold' }));
    const bad = await jollyWith(['@wait 1', '@dance'], 'bench', plover);
    expect(bad).toMatchObject({ code: 2 });
    expect(bad.err).toContain('line 2: there is no @dance');
    expect((await jollyWith([], 'bench', plover, '--seed', 'x')).code).toBe(2);
  });
  it('calc answers in JSON and names the key of a bad value', async () => {
    expect(
      await jolly('calc', 'probeOffset', '{"side":"left","sideMm":38,"face":"front","faceMm":9}'),
    ).toMatchObject({ code: 0, out: '{"x":-38,"y":-9}\n' });
    const bad = await jolly('calc', 'topSpeed', '{"stepsPerMm":0,"stepRateHz":1}');
    expect(bad.code).toBe(2);
    expect(JSON.parse(bad.err)).toMatchObject({ error: { key: 'stepsPerMm' } });
    expect((await jolly('calc', '--list')).out.split('\n')).toContain('cubeVerdict');
  });
  it('dump reads a settings report, and refuses what is none', async () => {
    const report = join(root, 'catalogue/demo/drawer/plover/plover-settings.txt');
    const read = await jolly('dump', report, '--json');
    expect(read.code).toBe(0);
    expect(JSON.parse(read.out).values).toContainEqual(expect.objectContaining({ key: 'steps.x' }));
    expect((await jolly('dump', report)).out).toMatch(/^steps\.x = \S+ steps\/mm {2}\(line \d+\)$/m);
    expect(await jolly('dump', join(root, 'README.md'))).toMatchObject({ code: 2, out: '' });
    expect((await jolly('dump', '/nowhere')).code).toBe(2);
  });
  it('dump reads a line that a dialect file teaches, and refuses a file that is none', async () => {
    const report = join(data, 'taught.txt');
    const dialect = join(data, 'mine.yaml');
    writeFileSync(report, '> M92 X100 Y100 Z400 E94.3\n\u0007\u0000boot\n> pause lifts 12 draws 75\n');
    writeFileSync(
      dialect,
      'jolly: dialect/1\nid: mine\nname: Mine\nlines:\n  - { text: "pause lifts # draws #", values: [{ key: park.lift, unit: mm }, null] }\n',
    );
    expect((await jolly('dump', report)).out).toContain('not read, line 3');
    const { code, out } = await jolly('dump', report, '--dialect', dialect);
    expect(code).toBe(0);
    expect(out).toMatch(/^park\.lift = 12 mm {2}\(line 3\)/m);
    expect(out).not.toContain('not read, line 3');
    writeFileSync(dialect, 'jolly: dialect/1\nid: mine\nname: Mine\nlines: [{ text: 7 }]\n');
    const refused = await jolly('dump', report, '--dialect', dialect);
    expect(refused).toMatchObject({ code: 2, out: '' });
    expect(refused.err).toMatch(/mine\.yaml.*line 4/s);
  });
  it('check says a stop with exit code 1', async () => {
    const file = join(data, 'hot.yaml');
    writeFileSync(
      file,
      readFileSync(plover, 'utf8').replace(
        'settings: {}',
        'settings: { heat.bed.max: { value: 140, source: override, because: a test } }',
      ),
    );
    const { code, out } = await jolly('check', file, '--json');
    expect(code).toBe(1);
    expect(JSON.parse(out).findings[0]).toMatchObject({ id: 'heat.max-over-part', severity: 'stop' });
  });
  it('wire tells the harness, the swap to another board, and what cannot be met', async () => {
    const dunlin = join(root, 'catalogue/demo/dunlin.yaml');
    const own = await jolly('wire', plover, '--json');
    expect(own.code).toBe(0);
    expect(JSON.parse(own.out)).toMatchObject({
      unmeetable: [],
      harness: { 'x-switch': { leads: { signal: 'STOP-X.3' } } },
    });
    expect((await jolly('wire', plover, '--board', 'alder-a32@1.0')).code).toBe(0);
    const swap = await jolly('wire', dunlin, '--board', 'pipit-2');
    expect(swap.code).toBe(1);
    expect(swap.out).toMatch(/Main supply to POWER[^]*bed-heater: H1[^]*lamp[^]*converter to 12 V[^]*does not go together: The drivers of Pipit 2 are soldered/); // prettier-ignore
    expect((await jolly('wire', dunlin, '--board', 'pipit-2', '--csv')).out).toContain('number,done,what');
    const cannot = await jolly('wire', plover, '--board', 'sedge-s4');
    expect(cannot.code).toBe(1);
    expect(cannot.out).toMatch(/cannot be met: probe/);
    const unknown = await jolly('wire', plover, '--board', 'harrow-h6@Z');
    expect(unknown).toMatchObject({ code: 2, err: expect.stringContaining('harrow-h6@A') as string });
    expect((await jolly('wire', plover, '--pins')).out).toContain(
      'PIN_X_SWITCH,10,,x-switch signal on STOP-X.3',
    );
  });
  it('build writes the files, the image and the sizes', async () => {
    const out = join(data, 'out');
    const result = await jolly('build', plover, '--out', out, '--json');
    expect(result.code).toBe(0);
    expect(JSON.parse(result.out)).toMatchObject({
      buildId: expect.stringMatching(/^[0-9a-f]{8}$/) as string,
    });
    expect(readImage(new Uint8Array(readFileSync(join(out, 'plover.bin'))))).toHaveProperty('code');
    expect(readFileSync(join(out, 'option_drive.h'), 'utf8')).toContain(
      '#define STEPS_X 100.0f /* steps.x, steps/mm */',
    );
  });
});
