import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readMachineFile } from '@jolly/core/formats/machineFile';
import { describe, expect, it } from 'vitest';
import { editedSources, keepFreshSources, loadBases, putFresh } from '../src/files/kitSources';
import { certain } from '@jolly/core/tree/certain';
import { followed, root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;

interface Built {
  id: string;
  buildId: string;
  imageHash: string;
  state: string;
  changed?: string[];
  culprit?: { keys?: string[]; machine?: true; builds: number };
}
async function build(machine: string): Promise<Built> {
  const { body } = await call('POST', `/machines/${machine}/builds`);
  await followed(server.address(), `/builds/${body.id}/events`);
  return (await call('GET', `/builds/${body.id}`)).body as Built;
}
/** Own values for everything that is set; what stops a build of them is set aside. */
async function set(machine: string, settings: Record<string, unknown>): Promise<void> {
  const { body } = await call('GET', `/machines/${machine}`);
  const own = Object.fromEntries(Object.entries(settings).map(([key, value]) => [key, { value, source: 'override', because: 'tried' }])); // prettier-ignore
  const waivers = { 'motion.pulse-limit speed.x': { because: 'to see it fail' } };
  const put = await call('PUT', `/machines/${machine}`, { version: body.version, machine: { ...body.machine, settings: own, waivers } }); // prettier-ignore
  expect(put.status).toBe(200);
}

describe('builds so far', () => {
  it('are labelled and pinned; what belongs to one is saved, and reads back', async () => {
    const made = await build('dunlin');
    const marked = await call('PUT', `/builds/${made.id}/marks`, { label: 'before the probe', pinned: true });
    expect(marked.body).toMatchObject({ label: 'before the probe', pinned: true });
    const part = async (name: string) =>
      (await call('GET', `/builds/${made.id}/file/${name}`)).body as string;
    const machine = readMachineFile(await part('machine'));
    expect('value' in machine && machine.value.id).toBe('dunlin');
    expect(await part('map')).toContain('CODE');
    expect((await part('generated')).slice(0, 2)).toBe('PK');
    expect(await part('log')).toContain('linked');
    expect((await call('PUT', `/builds/${made.id}/marks`, { label: 'a\nb', pinned: false })).status).toBe(
      400,
    );
  }, 120_000);

  it('are cleared away by rule: never what is pinned, flashed, or newest; and what went is said', async () => {
    const [first, second, third] = [1, 2, 3].map((at) => 12 + at);
    for (const current of [first, second, third]) {
      await set('dunlin', { 'park.lift': current });
      await build('dunlin');
    }
    // One that failed has no image; pinning it holds nothing else back.
    await set('dunlin', { 'speed.x': 9000 });
    const broken = await build('dunlin');
    expect((await call('PUT', `/builds/${broken.id}/marks`, { label: '', pinned: true })).status).toBe(200);
    const all = (await call('GET', '/machines/dunlin/builds')).body as Built[];
    const list = all.filter(({ state }) => state === 'done');
    // The fourth from the front is pinned.
    const may = (await call('GET', '/machines/dunlin/clearable?keep=1')).body as Built[];
    expect(may.map(({ id }) => id)).toEqual(list.slice(1, 3).map(({ id }) => id));
    const newest = certain(list[0], 'the newest');
    const refused = await call('POST', '/machines/dunlin/clear', { keep: 1, ids: [newest.id] });
    expect(refused.body.error.message).toContain('nothing was cleared away');
    const oldest = certain(may[1], 'an old one');
    const cleared = await call('POST', '/machines/dunlin/clear', { keep: 1, ids: [oldest.id] });
    expect(cleared.body.find(({ id }: Built) => id === oldest.id).clearedAt).toBeDefined();
    expect((await call('GET', `/images/${oldest.imageHash}`)).status).toBe(404);
    expect((await call('GET', `/images/${certain(may[0], 'kept').imageHash}`)).status).toBe(200);
    expect((await call('GET', `/builds/${oldest.id}/file/map`)).body.error.message).toContain(
      'no map was kept',
    );
    // What it was made from stays, and gives the same image again.
    expect((await call('GET', `/builds/${oldest.id}/input`)).status).toBe(200);
    const entries = (await call('GET', '/machines/dunlin/entries')).body as { summary: string }[];
    expect(entries.some(({ summary }) => summary.startsWith('Cleared away 1 image'))).toBe(true);
  }, 180_000);
});

describe('a build that broke', () => {
  it('knows what changed since the last good one, and the smallest part of it that breaks it', async () => {
    await set('bittern', {});
    await build('bittern');
    await set('bittern', {
      'speed.x': 9000,
      'park.lift': 20,
      'arcs.on': true,
      'machine.name': 'Other',
      'accel.y': 900,
    });
    const broken = await build('bittern');
    expect(broken.state).toBe('failed');
    expect(broken.changed).toEqual(expect.arrayContaining(['speed.x', 'park.lift', 'arcs.on']));
    await call('POST', `/builds/${broken.id}/culprit`);
    await followed(server.address(), `/builds/${broken.id}/culprit/events`);
    const { culprit } = (await call('GET', `/builds/${broken.id}`)).body as Built;
    expect(culprit?.keys).toEqual(['speed.x']);
    expect(culprit?.builds).toBeLessThan(10);
    expect((await call('POST', `/builds/${broken.id}/culprit/cancel`)).status).toBe(409);
    const good = (await call('GET', '/machines/bittern/builds')).body.find(
      ({ state }: Built) => state === 'done',
    );
    expect((await call('POST', `/builds/${good.id}/culprit`)).body.error.message).toContain('did not fail');
  }, 240_000);
});

describe('the base first', () => {
  it('is of the kind of frame and the version of the kit, and is built unchanged', async () => {
    const { body } = await call('POST', '/machines/dunlin/base');
    expect(body.name).toBe('Base lifting bed');
    expect(body.sizes.flashBytes).toBeGreaterThan(20_000);
    const kit = await readFile(join(root, 'packages/firmware/lantern/kit.yaml'), 'utf8');
    const [, version] = /^version: (.*)$/m.exec(kit) ?? [];
    const bases = await loadBases(root, 'lantern');
    expect(bases.map(({ frame }) => frame.kinematics).sort()).toEqual([
      'cross-belt',
      'lifting-bed',
      'moving-bed',
    ]);
    for (const base of bases) expect(base.kit.version).toBe(version);
  }, 120_000);
});

describe('sources edited out of turn', () => {
  it('are found by what they were, and put back; what stood there is kept', async () => {
    // A kit of its own, beside the one that others compile meanwhile.
    const data = server.data();
    const at = join(data, 'packages/firmware/wick/src/core');
    await mkdir(at, { recursive: true });
    await mkdir(join(data, 'dist'), { recursive: true });
    await writeFile(join(at, 'a.c'), 'int a;\n');
    await writeFile(join(at, 'b.c'), 'int b;\n');
    expect(await editedSources(data, 'wick')).toBeUndefined();
    await keepFreshSources(data, ['wick']);
    expect(await editedSources(data, 'wick')).toEqual([]);
    await writeFile(join(at, 'a.c'), 'int changed;\n');
    await rm(join(at, 'b.c'));
    await writeFile(join(at, 'c.c'), 'int added;\n');
    expect(await editedSources(data, 'wick')).toEqual(['core/a.c', 'core/b.c', 'core/c.c']);
    const kept = await putFresh(data, data, 'wick', new Date('2026-11-27T00:00:00Z'));
    expect(await editedSources(data, 'wick')).toEqual([]);
    expect(await readFile(join(kept, 'core/a.c'), 'utf8')).toBe('int changed;\n');
    expect(await readFile(join(kept, 'core/c.c'), 'utf8')).toBe('int added;\n');
    expect((await call('GET', '/kits/..%2F../edited')).status).toBe(400);
    expect((await call('GET', '/kits/wick/edited')).status).toBe(404);
  });
});
