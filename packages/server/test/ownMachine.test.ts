import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;

const ANSWERS = {
  name: 'Knot', place: 'Cellar', kinematics: 'moving-bed',
  'plate.width': 300, 'plate.depth': 200, 'beyond.left': 4, 'beyond.right': 5, 'beyond.front': 0, 'beyond.back': 7, height: 310,
  'x.kind': 'belt', 'x.pitch': 3, 'x.teeth': 18, 'y.kind': 'screw', 'y.lead': 12, 'z.kind': 'screw', 'z.lead': 4, 'e.roller': 11.2,
  microsteps: '32', 'supply.volts': 24, 'supply.amps': 12, board: 'alder-a32 1.1', 'hotend.sensor': null,
}; // prettier-ignore
const begin = async (from: object = { from: 'nothing' }) =>
  (await call('POST', '/descriptions', from)).body.stored;
const save = (id: string, version: number, answers: object) =>
  call('PUT', `/descriptions/${id}`, { version, description: { jolly: 'description/1', answers } });

describe('a machine that is described', () => {
  it('is kept as it is answered, goes onto the shelf once it can, and the description is done with', async () => {
    const { id, version } = await begin();
    expect((await call('POST', `/descriptions/${id}/machine`)).body.error).toMatchObject({ code: 'not-so' });
    const saved = await save(id, version, ANSWERS);
    expect(saved.body).toMatchObject({ id, version: version + 1 });
    expect((await call('GET', '/descriptions')).body.map((entry: { id: string }) => entry.id)).toContain(id);
    const { body } = await call('POST', `/descriptions/${id}/machine`);
    expect(body.machine).toMatchObject({ id: 'knot', name: 'Knot', not_known: expect.arrayContaining(['hotend.sensor', 'fan.part']) as unknown }); // prettier-ignore
    expect((await call('GET', `/descriptions/${id}`)).status).toBe(404);
    expect((await call('GET', '/machines/knot')).body.machine).toEqual(body.machine);
    const [entry] = (await call('GET', '/machines/knot/entries')).body;
    // As many as stand in the machine file as questions.
    const { machine } = (await call('GET', '/machines/knot')).body;
    expect(entry.summary).toBe(`Described; ${machine.not_known.length} things are not known yet`);
  });
  it('a stale save, an answer that does not fit and a travel that falls are refused; nothing is half kept', async () => {
    const { id, version } = await begin();
    await save(id, version, ANSWERS);
    expect((await save(id, version, {})).body.error.code).toBe('stale');
    const wrong = await save(id, version + 1, { ...ANSWERS, 'x.teeth': 2 });
    expect(wrong.body.error).toMatchObject({ code: 'not-so', path: 'x.teeth' });
    expect((await call('GET', `/descriptions/${id}`)).body.description.answers).toEqual(ANSWERS);
    await save(id, version + 1, { ...ANSWERS, 'plate.width': 20, 'beyond.left': -30 });
    expect((await call('POST', `/descriptions/${id}/machine`)).body.error.code).toBe('not-so');
    await call('DELETE', `/descriptions/${id}`);
    expect((await call('GET', `/descriptions/${id}`)).status).toBe(404);
  });
  it('begun from a report keeps the report; one in which nothing can be read is refused', async () => {
    const text = readFileSync(join(root, 'catalogue/demo/drawer/plover/plover-settings.txt'), 'utf8');
    const { body } = await call('POST', '/descriptions', { from: 'report', text });
    expect(body.taken).toBeGreaterThan(10);
    const { id, version, description } = body.stored;
    const answers = { ...ANSWERS, ...description.answers, name: 'Reef' };
    await call('PUT', `/descriptions/${id}`, { version, description: { ...description, answers } });
    const made = await call('POST', `/descriptions/${id}/machine`);
    expect(made.body.machine.axes.x.max_speed_mm_s).toBe(200);
    const { kept } = (await call('GET', '/machines/reef/kept')).body;
    expect(kept.map((entry: { kind: string }) => entry.kind)).toContain('dump');
    expect((await call('POST', '/descriptions', { from: 'report', text: 'hello' })).body.error.code).toBe(
      'not-so',
    );
  });
  it('begun from a machine is that machine, under another name, but for what was measured and looked at there', async () => {
    const { id, version, description } = await begin({ from: 'machine', machine: 'bittern' });
    await call('PUT', `/descriptions/${id}`, { version, description: { ...description, answers: { ...description.answers, name: 'Bittern' } } }); // prettier-ignore
    const { machine } = (await call('POST', `/descriptions/${id}/machine`)).body;
    const { machine: first } = (await call('GET', '/machines/bittern')).body;
    expect(machine.id).toBe('bittern-2');
    const { z_mm: offset, ...mount } = first.probe_mount;
    expect(offset).toBeLessThan(0);
    const unseen = {
      board: { ...first.board, revision_seen: false },
      probe_mount: mount,
      not_known: ['mount.z_mm'],
    };
    expect({ ...machine, id: first.id, parts: [] }).toEqual({ ...first, ...unseen, parts: [] });
  });
});

describe('own parts', () => {
  const file = (id: string, watts = 33) =>
    `jolly: part/1\nid: ${id}\nname: Brazier\nkind: heater\nleads: [{ role: supply }, { role: control, needs: sw }]\nwatts: ${watts}\nvolts: 24\nmax_c: 285\n`;
  it('are added from a file, stand beside the catalogue’s after a restart, and can be replaced', async () => {
    expect((await call('POST', '/parts', { file: file('brazier') })).body.id).toBe('brazier');
    expect((await call('POST', '/parts', { file: file('brazier', 44) })).body.watts).toBe(44);
    await server.restart();
    const { parts } = (await call('GET', '/catalogue')).body;
    expect(parts.filter((part: { id: string }) => part.id === 'brazier')).toMatchObject([{ watts: 44 }]);
  });
  it('described anew, every machine that has one is told, and is another version', async () => {
    const { machine, version } = (await call('GET', '/machines/knot')).body;
    const parts = [{ id: 'hotend-heater', part: 'brazier', role: 'hotend' }];
    await call('PUT', '/machines/knot', { version, machine: { ...machine, parts }, label: 'a heater' });
    const newest = async () => (await call('GET', '/machines/knot/entries')).body[0].summary;
    const now = async () => (await call('GET', '/machines/knot')).body.version;
    await call('POST', '/parts', { file: file('brazier', 44) });
    expect(await newest()).not.toMatch(/anew/);
    expect(await now()).toBe(version + 1);
    await call('POST', '/parts', { file: file('brazier', 50) });
    expect(await newest()).toMatch(/Brazier was described anew/);
    // What was built and measured before is from before, as after a change of the file.
    expect(await now()).toBe(version + 2);
  });
  it('do not take the place of the catalogue’s, and a mistake is named with its line', async () => {
    expect((await call('POST', '/parts', { file: file('cartridge-24-40') })).body.error.code).toBe(
      'id-taken',
    );
    const { error } = (await call('POST', '/parts', { file: `${file('brazier-2')}colour: red\n` })).body;
    expect(error).toMatchObject({ code: 'bad-file', path: 'colour' });
  });
});

describe('the shelf', () => {
  const ids = async () => (await call('GET', '/machines')).body.map((plate: { machine: { id: string } }) => plate.machine.id); // prettier-ignore
  it('a copy is what the machine is, not what happened to it', async () => {
    const { machine } = (await call('POST', '/machines/dunlin/copy', { name: 'Dunlin 2' })).body;
    expect(machine).toMatchObject({ id: 'dunlin-2', name: 'Dunlin 2', board: { revision_seen: false } });
    expect(machine.probe_mount?.z_mm).toBeUndefined();
    expect((await call('GET', '/machines/dunlin-2/entries')).body).toHaveLength(1);
    expect((await call('POST', '/machines/dunlin/copy', { name: ' ' })).body.error.code).toBe('bad-value');
  });
  it('what is archived or deleted is off the shelf, and comes back whole', async () => {
    await call('POST', '/machines/dunlin-2/place', { at: 'archive' });
    expect(await ids()).not.toContain('dunlin-2');
    expect((await call('GET', '/archive')).body).toMatchObject([{ id: 'dunlin-2', at: 'archive' }]);
    await call('POST', '/machines/dunlin-2/place', { at: 'bin' });
    await call('POST', '/machines/dunlin-2/place', { at: 'shelf' });
    expect(await ids()).toContain('dunlin-2');
    expect((await call('GET', '/machines/dunlin-2/entries')).body).toHaveLength(1);
  });
  it('a machine in the middle of a job is not deleted', async () => {
    expect((await call('POST', '/machines/plover/place', { at: 'bin' })).body.error.code).toBe('job-open');
  });
  it('the demo’s machines are taken off and laid again, as they were left', async () => {
    const before = (await call('GET', '/machines/bittern')).body;
    expect((await call('DELETE', '/demo')).body).toEqual(['bittern', 'dunlin', 'plover']);
    expect(await ids()).not.toContain('bittern');
    await server.restart();
    expect(await ids()).not.toContain('bittern');
    await call('POST', '/demo');
    expect(await ids()).toEqual(expect.arrayContaining(['bittern', 'dunlin', 'plover']));
    expect((await call('GET', '/machines/bittern')).body).toEqual(before);
  });
});
