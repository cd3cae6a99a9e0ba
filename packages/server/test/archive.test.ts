import { mkdtempSync, readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { ZipFile } from 'yazl';
import { openArchive } from '../src/archive/openArchive';
import { spawn } from 'node:child_process';
import { root, serverForTests, throwAway } from './fixtures/server';

const from = serverForTests();
const to = serverForTests();
const folder = mkdtempSync(join(tmpdir(), 'jolly-zip-'));
afterAll(() => throwAway(folder));

const saved = async (id: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(`${from.address()}/api/machines/${id}/archive`)).arrayBuffer());
async function upload(server: typeof to, bytes: Uint8Array): Promise<string> {
  const { id } = (await server.call('POST', '/uploads')).body;
  for (let nth = 0; nth * 2 ** 20 < bytes.length; nth += 1)
    await fetch(`${server.address()}/api/uploads/${id}/${nth}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/octet-stream' },
      body: bytes.slice(nth * 2 ** 20, (nth + 1) * 2 ** 20),
    });
  return id;
}
const heater =
  'jolly: part/1\nid: brazier\nname: Brazier\nkind: heater\nleads: [{ role: supply }, { role: control, needs: sw }]\nwatts: 33\nvolts: 24\nmax_c: 285\n';

/** Everything of a machine that can be asked for, without what counts. */
async function everything(server: typeof to, id: string) {
  const ask = async (path: string) => (await server.call('GET', `/machines/${id}${path}`)).body;
  const plain = (list: { id?: unknown }[]) => list.map(({ id: _id, ...rest }) => rest);
  const entries = (await ask('/entries')) as { summary: string }[];
  return {
    machine: (await ask('')).machine,
    entries: plain(entries as never[]).filter(
      (entry) => !/archive/.test((entry as { summary: string }).summary),
    ),
    kept: plain((await ask('/kept')).kept),
    job: (await ask('/job')).job?.job,
    photos: plain(await ask('/photos')),
    measured: plain((await ask('/calibrations')).calibrations),
    firstPower: (await ask('/first-power')).notes,
  };
}

describe('moving house', () => {
  it('a machine goes out of one data folder and into another, whole: history, kept images, photos, own parts', async () => {
    await from.call('POST', '/parts', { file: heater });
    const { machine, version } = (await from.call('GET', '/machines/dunlin')).body;
    const parts = machine.parts.map((part: { id: string }) =>
      part.id === 'hotend-heater' ? { ...part, part: 'brazier' } : part,
    );
    await from.call('PUT', '/machines/dunlin', {
      version,
      machine: { ...machine, id: 'dunlin', parts },
      label: 'another heater',
    });
    await to.call('DELETE', '/demo');
    const copied = (await from.call('POST', '/machines/dunlin/copy', { name: 'Stint' })).body.machine;
    await from.call('POST', `/machines/${copied.id}/entries`, { summary: 'a note that must not be lost' });
    await from.call('PUT', '/machines/stint/first-power', { asked: 'polarity', expected: 'plus on plus', said: 'seen' }); // prettier-ignore
    const bytes = await saved('stint');
    const id = await upload(to, bytes);
    expect((await to.call('GET', `/uploads/${id}/archive`)).body).toEqual([
      { id: 'stint', name: 'Stint', state: 'new' },
    ]);
    expect((await to.call('GET', '/machines/stint')).status).toBe(404);
    expect((await to.call('POST', `/uploads/${id}/archive`, { choices: {} })).body).toEqual(['stint']);
    expect(await everything(to, 'stint')).toEqual(await everything(from, 'stint'));
    const again = await upload(to, bytes);
    expect((await to.call('GET', `/uploads/${again}/archive`)).body).toMatchObject([{ state: 'same' }]);
    expect((await to.call('POST', `/uploads/${again}/archive`, { choices: {} })).body).toEqual([]);
    const { parts: known } = (await to.call('GET', '/catalogue')).body;
    expect(known.filter((part: { id: string }) => part.id === 'brazier')).toHaveLength(1);
    await to.call('POST', '/demo');
  });
  it('the same archive twice changes nothing; a different one is asked about', async () => {
    const bytes = await saved('bittern');
    expect(await saved('bittern')).toEqual(bytes);
    const id = await upload(from, bytes);
    expect((await from.call('GET', `/uploads/${id}/archive`)).body).toMatchObject([{ state: 'same' }]);
    const before = (await from.call('GET', '/machines')).body;
    expect((await from.call('POST', `/uploads/${id}/archive`, { choices: {} })).body).toEqual([]);
    expect((await from.call('GET', '/machines')).body).toEqual(before);
    await from.call('POST', '/machines/bittern/entries', { summary: 'something happened' });
    const again = await upload(from, bytes);
    expect((await from.call('POST', `/uploads/${again}/archive`, { choices: {} })).body.error.code).toBe(
      'not-so',
    );
    expect(
      (await from.call('POST', `/uploads/${again}/archive`, { choices: { bittern: 'another' } })).body,
    ).toEqual(['bittern-2']);
    const beside = await everything(from, 'bittern-2');
    const first = await everything(from, 'bittern');
    expect(beside.kept).toEqual(first.kept);
    expect(beside.measured).toEqual(first.measured);
    expect(first.measured.length).toBeGreaterThan(10);
    expect(beside.machine).toEqual({ ...first.machine, id: 'bittern-2' });
    // In its place: what happened since is gone, and only the way here is told beside what the archive says.
    const third = await upload(from, bytes);
    const put = await from.call('POST', `/uploads/${third}/archive`, { choices: { bittern: 'replace' } });
    expect(put.body).toEqual(['bittern']);
    const logbook = (await from.call('GET', '/machines/bittern/entries')).body as { summary: string }[];
    expect(logbook.map(({ summary }) => summary)).not.toContain('something happened');
    const fourth = await upload(from, bytes);
    expect((await from.call('GET', `/uploads/${fourth}/archive`)).body).toMatchObject([{ state: 'same' }]);
  });
  it('a board of one’s own travels with the chip it carries; where another chip has that name, nothing is taken', async () => {
    const { chips, boards } = (await from.call('GET', '/catalogue')).body;
    const chip = { ...chips.find(({ id }: { id: string }) => id === 'mica-c'), id: 'mica-q', name: 'Mica-Q' };
    await from.call('POST', '/chips', { file: JSON.stringify(chip) });
    const alder = boards.find((board: { id: string; revision: string }) => board.id === 'alder-a32' && board.revision === '1.1'); // prettier-ignore
    const own = {
      ...alder,
      id: 'alder-q',
      name: 'Alder Q',
      revision: '1',
      chip: 'mica-q',
      print: ['ALDER Q'],
    };
    expect((await from.call('POST', '/boards', { file: JSON.stringify(own) })).status).toBe(200);
    const copy = (await from.call('POST', '/machines/plover/copy', { name: 'Reeve' })).body;
    const machine = { ...copy.machine, board: { id: 'alder-q', revision: '1' } };
    const put = await from.call('PUT', '/machines/reeve', { version: copy.version, machine, label: 'own board' }); // prettier-ignore
    expect(put.status).toBe(200);
    const bytes = await saved('reeve');
    const clash = { ...chip, clock_hz: 1_000_000 };
    await to.call('POST', '/chips', { file: JSON.stringify(clash) });
    const refused = await upload(to, bytes);
    expect((await to.call('POST', `/uploads/${refused}/archive`, { choices: {} })).body.error.code).toBe('id-taken'); // prettier-ignore
    expect((await to.call('GET', '/machines/reeve')).status).toBe(404);
    expect((await to.call('GET', '/own-types')).body.boards).toEqual([]);
    await to.call('POST', '/chips', { file: JSON.stringify(chip) });
    const taken = await upload(to, bytes);
    expect((await to.call('POST', `/uploads/${taken}/archive`, { choices: {} })).body).toEqual(['reeve']);
    const there = (await to.call('GET', '/own-types')).body;
    expect(there.boards).toEqual([{ id: 'alder-q', revision: '1', name: 'Alder Q', usedBy: ['Reeve'] }]);
    expect(there.chips).toEqual([{ id: 'mica-q', name: 'Mica-Q', usedBy: ['Alder Q rev 1'] }]);
  });
  it('export and import do the same from the command line', async () => {
    const file = join(folder, 'cli.zip');
    const run = (data: string, ...words: string[]) =>
      new Promise<{ code: number | null; out: string; err: string }>((resolve) => {
        const child = spawn(process.execPath, [join(root, 'dist/jolly.mjs'), ...words], {
          env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: data },
        });
        let [out, err] = ['', ''];
        child.stdout.on('data', (text: Buffer) => (out += String(text)));
        child.stderr.on('data', (text: Buffer) => (err += String(text)));
        child.on('exit', (code) => resolve({ code, out, err }));
      });
    await writeFile(file, await saved('bittern'));
    const data = join(folder, 'data');
    expect(await run(data, 'import', file)).toMatchObject({ code: 0, out: 'taken in: bittern\n' });
    expect(await run(data, 'import', file, '--json')).toMatchObject({
      code: 0,
      out: '{"taken":[],"same":["bittern"]}\n',
    });
    const out = join(folder, 'out.zip');
    expect(await run(data, 'export', out, '--machine', 'bittern')).toMatchObject({ code: 0 });
    const archive = await openArchive(out);
    expect(archive.manifest.machines).toEqual([{ id: 'bittern', name: 'Bittern' }]);
    await archive.close();
    expect(await run(data, 'export', out, '--machine', 'nobody')).toMatchObject({ code: 2 });
    expect(await run(data, 'import', join(root, 'README.md'))).toMatchObject({ code: 2 });
    const away = await run(data, 'import', join(folder, 'nowhere.zip'));
    expect(away).toMatchObject({
      code: 2,
      err: expect.stringContaining('nowhere.zip is not there') as unknown,
    });
    expect(await run(data, 'export', join(folder, 'no/such/folder.zip'))).toMatchObject({ code: 2 });
    expect(await run(data, 'export', 'bittern', out)).toMatchObject({ code: 2 });
  });
});

describe('hostile archives are refused whole', () => {
  async function zipped(entries: Record<string, string | Buffer>): Promise<string> {
    const zip = new ZipFile();
    for (const [name, content] of Object.entries(entries)) zip.addBuffer(Buffer.from(content), name);
    zip.end();
    const pieces: Buffer[] = [];
    for await (const piece of zip.outputStream) pieces.push(piece as Buffer);
    const path = join(folder, `${Math.random()}.zip`);
    await writeFile(path, Buffer.concat(pieces));
    return path;
  }
  const manifest = (...ids: string[]) =>
    JSON.stringify({ jolly: 'archive/1', machines: ids.map((id) => ({ id, name: id })) });
  const none = Object.fromEntries(
    [
      'entry',
      'image',
      'build',
      'flash',
      'board',
      'proof',
      'job',
      'kept',
      'waiver',
      'photo',
      'machine_edit',
      'due',
    ].map((table) => [table, []]),
  );
  const machine = (id: string, rows: object = {}) =>
    JSON.stringify({ document: { id }, rows: { ...none, ...rows } });
  const hash = 'a'.repeat(64);
  it.each<[string, Record<string, string | Buffer>, RegExp]>([
    ['without a manifest', { 'machines/a.json': machine('a') }, /no manifest/],
    ['of a newer version', { 'manifest.json': '{"jolly":"archive/2"}' }, /archive\/2.*update/],
    ['with a name of its own', { 'manifest.json': manifest('a'), 'etc/passwd': 'x' }, /“etc\/passwd”/],
    [
      'with a machine that is not named',
      { 'manifest.json': manifest('a'), 'machines/a.json': machine('a'), 'machines/b.json': machine('b') },
      /“b”/,
    ],
    [
      'with a machine that is not there',
      { 'manifest.json': manifest('a', 'b'), 'machines/a.json': machine('a') },
      /“b”/,
    ],
    [
      'with another machine in a file',
      { 'manifest.json': manifest('a'), 'machines/a.json': machine('b') },
      /another machine/,
    ],
    [
      'with two machines of one id',
      { 'manifest.json': manifest('a', 'a'), 'machines/a.json': machine('a') },
      /duplicate/,
    ],
    [
      'with a wrong sum',
      { 'manifest.json': manifest('a'), 'machines/a.json': machine('a'), [`images/${hash}`]: 'x' },
      /the sum/,
    ],
    [
      'that names bytes it has not got',
      { 'manifest.json': manifest('a'), 'machines/a.json': machine('a', { photo: [{ hash }] }) },
      /not in it/,
    ],
    [
      'with a logbook line of no kind',
      { 'manifest.json': manifest('a'), 'machines/a.json': machine('a', { entry: [{ kind: 'spell' }] }) },
      /logbook/,
    ],
    [
      'that is a bomb',
      { 'manifest.json': manifest('a'), 'machines/a.json': Buffer.alloc(60 * 2 ** 20) },
      /unpacks to/,
    ],
    [
      'whose rows are no rows',
      { 'manifest.json': manifest('a'), 'machines/a.json': '{"document":{},"rows":[]}' },
      /no machine with its rows/,
    ],
  ])('one %s', async (_what, entries, why) => {
    await expect(openArchive(await zipped(entries))).rejects.toThrow(why);
  });
  it('one whose rows do not fit leaves nothing behind: no machine, no part', async () => {
    await from.call('POST', '/parts', { file: heater });
    const { machine: knot } = (await from.call('GET', '/machines/bittern')).body;
    const parts = [...knot.parts.filter((entry: { id: string }) => entry.id !== 'hotend-heater'), { id: 'hotend-heater', part: 'ember', role: 'hotend' }]; // prettier-ignore
    const carried = {
      document: { ...knot, id: 'late', name: 'Late', parts },
      rows: { ...none, entry: [{ kind: 'note', at: '2026-01-01', summary: 'x', detail: {}, colour: 'red' }] },
    };
    const path = await zipped({
      'manifest.json': manifest('late'),
      'machines/late.json': JSON.stringify(carried),
      'parts/ember.yaml': heater.replace('id: brazier', 'id: ember'),
    });
    const id = await upload(from, new Uint8Array(readFileSync(path)));
    expect((await from.call('POST', `/uploads/${id}/archive`, { choices: {} })).body.error.message).toMatch(
      /colour/,
    );
    expect((await from.call('GET', '/machines/late')).status).toBe(404);
    const { parts: known } = (await from.call('GET', '/catalogue')).body;
    expect(known.filter((part: { id: string }) => part.id === 'ember')).toEqual([]);
  });
  it('names that climb are not written in the first place', async () => {
    const path = await zipped({ 'manifest.json': manifest('a'), 'images/..x..x': 'x' });
    const bytes = readFileSync(path);
    await writeFile(
      path,
      Buffer.from(bytes.toString('latin1').replaceAll('images/..x..x', '../../../evil'), 'latin1'),
    );
    await expect(openArchive(path)).rejects.toThrow(/not taken/);
  });
  it('any byte that is flipped, and any cut, is refused or read as it was', async () => {
    const whole = await saved('bittern');
    await fc.assert(
      fc.asyncProperty(
        fc.nat({ max: whole.length - 1 }),
        fc.integer({ min: 1, max: 255 }),
        fc.boolean(),
        async (at, by, cut) => {
          const damaged = cut
            ? whole.slice(0, at)
            : whole.map((byte, index) => (index === at ? byte ^ by : byte));
          const path = join(folder, 'damaged.zip');
          await writeFile(path, damaged);
          const archive = await openArchive(path).catch((error: unknown) => {
            expect(String(error)).toMatch(/not taken/);
          });
          if (!archive) return;
          expect(archive.manifest.machines).toEqual([{ id: 'bittern', name: 'Bittern' }]);
          await archive.close();
        },
      ),
      { numRuns: 30 },
    );
  });
});
