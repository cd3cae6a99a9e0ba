import type { UpkeepOfMachine } from '@jolly/contract/endpoints/calibrations';
import type { SharedSetting } from '@jolly/contract/endpoints/fleet';
import type { Entry } from '@jolly/contract/endpoints/machines';
import { certain } from '@jolly/core/tree/certain';
import { describe, expect, it } from 'vitest';
import { serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;

const measured = (calibration: string, more: object = {}) => ({
  calibration,
  outcome: 'found',
  words: 'The offset is -1.47 mm.',
  evidence: ['two runs'],
  figures: [{ id: 'nudge', label: 'Nudged by', value: -0.02, unit: 'mm' }],
  wentTo: { file: true, board: true, store: true },
  ...more,
});
const record = async (id: string) => (await call('GET', `/machines/${id}/calibrations`)).body;
const standing = async (id: string, of: string) =>
  certain(
    (await record(id)).upkeep.find((one: UpkeepOfMachine) => one.id === of),
    of,
  ) as UpkeepOfMachine;
const timeline = async (id: string, query = '') =>
  (await call('GET', `/machines/${id}/timeline${query}`)).body as { entries: Entry[]; total: number };

describe('the plate on its screws', () => {
  it('stays as hands left it; nonsense is refused by name', async () => {
    const screws = [{ screw: 'front left', x: 20, y: 20, up: 0.35 }];
    expect((await call('GET', '/machines/bittern/board')).body.screws).toBeUndefined();
    expect((await call('PUT', '/machines/bittern/bench/screws', { screws })).status).toBe(200);
    expect((await call('GET', '/machines/bittern/board')).body.screws).toEqual(screws);
    const wild = await call('PUT', '/machines/bittern/bench/screws', { screws: [{ ...screws[0], up: 500 }] });
    expect(wild).toMatchObject({ status: 400, body: { error: { message: expect.stringMatching(/up/) as string } } }); // prettier-ignore
    expect((await call('PUT', '/machines/nobody/bench/screws', { screws })).status).toBe(404);
    expect((await call('GET', '/machines/bittern/board')).body.screws).toEqual(screws);
    await call('PUT', '/machines/bittern/bench/screws', { screws: [] });
    expect((await call('GET', '/machines/bittern/board')).body.screws).toBeUndefined();
  });
});

describe('a note of one’s own', () => {
  it('is taken back by whoever wrote it; what the product wrote stays', async () => {
    const [written] = (await call('POST', '/machines/dunlin/entries', { summary: 'Oiled the rods' })).body;
    const taken = await call('DELETE', `/machines/dunlin/entries/${written.id}`);
    expect(taken.body).not.toContainEqual(written);
    expect((await call('DELETE', `/machines/dunlin/entries/${written.id}`)).status).toBe(404);
    const { entries, total } = await timeline('dunlin');
    for (const entry of entries)
      expect((await call('DELETE', `/machines/dunlin/entries/${entry.id}`)).status).toBe(404);
    expect((await timeline('dunlin')).total).toBe(total);
  });
});

describe('what is measured', () => {
  it('the demo has months of it: an offset that wandered, maps that changed, two overdue', async () => {
    const { calibrations } = await record('bittern');
    const offsets = calibrations.filter((one: { calibration: string }) => one.calibration === 'z-offset');
    expect(offsets.length).toBeGreaterThanOrEqual(4);
    expect(calibrations.filter((one: { map?: object }) => one.map)).toHaveLength(3);
    const due = (await record('dunlin')).upkeep.filter((one: UpkeepOfMachine) => one.state === 'due');
    expect(due.map((one: UpkeepOfMachine) => one.id)).toEqual(['z-switch', 'first-layer']);
  });

  it('and is not in the machine file is due until the file has it', async () => {
    const figures = [{ id: 'offset-z', label: 'Z offset', value: -1.52, unit: 'mm' }];
    const kept = { ...measured('z-offset'), figures, wentTo: { file: false, board: true, store: true } };
    expect((await standing('bittern', 'z-offset')).state).toBe('not due');
    expect((await call('POST', '/machines/bittern/calibrations', kept)).status).toBe(200);
    const due = await standing('bittern', 'z-offset');
    expect(due).toMatchObject({
      state: 'due',
      aside: [{ key: 'probe.offset.z', measured: -1.52, has: -1.468 }],
    });
    const shelf = async () => (await call('GET', '/machines')).body.find((one: { machine: { id: string } }) => one.machine.id === 'bittern'); // prettier-ignore
    expect((await shelf()).dueTitles).toContain(due.title);
    const { machine, version } = (await call('GET', '/machines/bittern')).body;
    machine.probe_mount.z_mm = -1.52;
    expect((await call('PUT', '/machines/bittern', { machine, version, label: 'Z' })).status).toBe(200);
    expect((await standing('bittern', 'z-offset')).state).toBe('not due');
    expect((await shelf()).dueTitles).not.toContain(due.title);
  });

  it('goes on record and into the logbook, with where it went, and is due no more', async () => {
    expect((await standing('dunlin', 'first-layer')).state).toBe('due');
    const { status } = await call('POST', '/machines/dunlin/calibrations', measured('first-layer'));
    expect(status).toBe(200);
    expect((await standing('dunlin', 'first-layer')).state).toBe('not due');
    const [entry] = (await timeline('dunlin')).entries;
    expect(entry).toMatchObject({ kind: 'calibration', summary: expect.stringMatching(/^First layer: .*in the machine file, on the board, stored there/) as string }); // prettier-ignore
    const plate = (await call('GET', '/machines')).body.find(
      (one: { machine: { id: string } }) => one.machine.id === 'dunlin',
    );
    expect(plate).toMatchObject({ due: 1, dueTitles: ['Height of the Z switch by shim'] });
  });

  it('is taken back with its line in the logbook, and what it settled is due again; once', async () => {
    const before = await timeline('dunlin');
    const [newest] = (await record('dunlin')).calibrations as { id: number; calibration: string }[];
    const taken = await call('DELETE', `/machines/dunlin/calibrations/${newest?.id}`);
    expect(taken.body.calibrations).not.toContainEqual(newest);
    expect((await standing('dunlin', 'first-layer')).state).toBe('due');
    const after = await timeline('dunlin');
    expect([after.total, after.entries]).not.toContainEqual(before.entries[0]);
    expect(after.total).toBe(before.total - 1);
    expect((await call('DELETE', `/machines/dunlin/calibrations/${newest?.id}`)).status).toBe(404);
    const [other] = (await record('bittern')).calibrations as { id: number }[];
    expect((await call('DELETE', `/machines/dunlin/calibrations/${other?.id}`)).status).toBe(404);
  });

  it('something poor leaves it due, and says so', async () => {
    await call('POST', '/machines/bittern/calibrations', measured('probe-repeat', { outcome: 'poor' }));
    expect(await standing('bittern', 'probe-repeat')).toMatchObject({
      state: 'due',
      because: expect.stringContaining('not good enough') as string,
    });
  });

  it('falls due when the machine file says that another fact is there, and only then', async () => {
    await call('POST', '/machines/bittern/calibrations', measured('pid-hotend'));
    await call('POST', '/machines/bittern/calibrations', measured('z-offset'));
    const { machine, version } = (await call('GET', '/machines/bittern')).body;
    machine.probe_mount.face_mm = 31;
    await call('PUT', '/machines/bittern', { machine, version, label: 'another mount' });
    expect(await standing('bittern', 'z-offset')).toMatchObject({ state: 'due' });
    expect(await standing('bittern', 'pid-hotend')).toMatchObject({ state: 'not due' });
  });

  it('what a finished job left is settled by measuring it', async () => {
    await call('POST', '/machines/dunlin/job', {
      title: 'A nozzle',
      reason: 'part',
      changes: [{ id: 'n', kind: 'nozzle' }],
      taken: ['n'],
    });
    await call('POST', '/machines/dunlin/job/state', { state: 'done', putBack: false });
    expect(await standing('dunlin', 'first-layer')).toMatchObject({ state: 'due' });
    await call('POST', '/machines/dunlin/calibrations', measured('first-layer', { outcome: 'done', figures: [] })); // prettier-ignore
    expect((await standing('dunlin', 'first-layer')).state).toBe('not due');
  });

  it.each([
    ['of nothing that is measured', { calibration: 'weather' }, /"calibration" must be one of/],
    ['with a figure that is none', { figures: [{ id: 'a', label: 'a', value: 'NaN', unit: '' }] }, /figures/],
    ['with a map with holes', { map: { xs: [0, 1], ys: [0, 1], z: [[0, 1], [0]] } }, /row of heights/],
    ['with an outcome nobody knows', { outcome: 'perfect' }, /outcome/],
  ])('a record %s is refused whole', async (_, wrong, why) => {
    const before = (await record('dunlin')).calibrations.length;
    const { status, body } = await call('POST', '/machines/dunlin/calibrations', { ...measured('map'), ...wrong }); // prettier-ignore
    expect(status).toBe(400);
    expect(body.error.message).toMatch(why);
    expect((await record('dunlin')).calibrations).toHaveLength(before);
  });

  it('is there after a restart', async () => {
    const before = await record('bittern');
    await server.restart();
    expect((await record('bittern')).calibrations).toEqual(before.calibrations);
  });
});

describe('the time line', () => {
  it('comes in pages that meet without a gap, and is counted as a whole', async () => {
    for (let nth = 0; nth < 230; nth += 1)
      await call('POST', '/machines/plover/entries', { summary: `line ${nth}` });
    const first = await timeline('plover');
    expect(first.entries).toHaveLength(200);
    const rest = await timeline('plover', `?from=${certain(first.entries.at(-1), 'a last').id}`);
    const all = [...first.entries, ...rest.entries];
    expect(all).toHaveLength(first.total);
    expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
    expect(all.map(({ at }) => at)).toEqual(all.map(({ at }) => at).sort().reverse()); // prettier-ignore
  });

  it('is filtered by kind and by words, of which signs have no meaning of their own', async () => {
    await call('POST', '/machines/plover/entries', { summary: 'At 100% of Its_rating' });
    expect((await timeline('plover', '?words=100%25')).total).toBe(1);
    expect((await timeline('plover', '?words=its_rating+at')).total).toBe(1);
    expect((await timeline('plover', '?words=ITS_Rating')).total).toBe(1);
    expect((await timeline('plover', '?words=itsXrating')).total).toBe(0);
    expect((await timeline('plover', '?words=%5C')).total).toBe(0);
    const kinds = (await timeline('plover', '?kinds=proof,calibration')).entries.map(({ kind }) => kind);
    expect(new Set(kinds)).toEqual(new Set(['proof', 'calibration']));
    expect((await call('GET', '/machines/plover/timeline?kinds=weather')).status).toBe(400);
  });

  it('leaves as CSV and as Markdown, whole', async () => {
    await call('POST', '/machines/plover/entries', { summary: '=HYPERLINK("x") | a, b' });
    const csv = (await call('GET', '/machines/plover/record/csv')).body as string;
    expect(csv).toContain(`"'=HYPERLINK(""x"") | a, b"`);
    expect(csv).toMatch(/figure,.*Extruder steps,341\.6,steps\/mm/);
    const md = (await call('GET', '/machines/plover/record/md')).body as string;
    expect(md).toContain('\\| a, b');
    expect((await call('GET', '/machines/plover/record/pdf')).status).toBe(400);
  });
});

describe('the fleet', () => {
  const wanted = { key: 'heat.bed.max', value: 95 };
  const tried = async (machines: string[], what: object = wanted) =>
    (await call('POST', '/fleet/setting/try', { ...what, machines })).body as SharedSetting[];
  const valueOn = async (id: string) =>
    (await call('GET', `/machines/${id}`)).body.machine.settings['heat.bed.max']?.value;

  it('a policy is kept, and holds a machine back from what is shared', async () => {
    expect((await call('GET', '/machines/bittern/policy')).body).toEqual({ policy: null });
    await call('PUT', '/machines/bittern/policy', { policy: 'stay' });
    const [plover, bittern] = await tried(['plover', 'bittern']);
    expect(plover?.leftOut).toBeUndefined();
    expect(bittern?.leftOut).toMatch(/stay as it is/);
    expect((await call('PUT', '/machines/bittern/policy', { policy: 'never' })).status).toBe(400);
  });

  it('one setting is set on those that take it, and each can take it back', async () => {
    const all = await tried(['plover', 'dunlin', 'bittern']);
    const versions = Object.fromEntries(all.map(({ machine }) => [machine.id, machine.version]));
    const because = 'the plates are the same now';
    expect((await call('POST', '/fleet/setting', { ...wanted, because, versions })).status).toBe(200);
    expect([await valueOn('plover'), await valueOn('dunlin'), await valueOn('bittern')]).toEqual([95, 95, undefined]); // prettier-ignore
    await call('POST', '/machines/dunlin/undo');
    expect(await valueOn('dunlin')).not.toBe(95);
    expect(await valueOn('plover')).toBe(95);
  });

  it('nothing is set anywhere when one machine was changed since the preview', async () => {
    const all = await tried(['plover', 'dunlin'], { key: 'heat.bed.max', value: 90 });
    const versions = Object.fromEntries(all.map(({ machine }) => [machine.id, machine.version]));
    const { machine, version } = (await call('GET', '/machines/dunlin')).body;
    await call('PUT', '/machines/dunlin', {
      machine: { ...machine, note: 'changed' },
      version,
      label: 'a note',
    });
    const { status, body } = await call('POST', '/fleet/setting', {
      key: 'heat.bed.max',
      value: 90,
      because: 'the plates are weaker',
      versions,
    });
    expect(status).toBe(409);
    expect(body.error.message).toMatch(/Dunlin/);
    expect(await valueOn('plover')).toBe(95);
  });

  it('what was measured on one, or tells what it is, is set on no other', async () => {
    for (const [key, value] of [
      ['probe.offset.z', -1.9],
      ['pid.hotend.p', 20],
      ['current.x', 0.8],
    ] as const)
      expect((await tried(['bittern', 'dunlin'], { key, value })).map(({ leftOut }) => leftOut)).toEqual(
        Array(2).fill(expect.stringMatching(/Measure it at this one/)),
      );
    for (const [key, value] of [
      ['direction.x', true],
      ['travel.x.max', 300],
      ['steps.x', 90],
    ] as const)
      expect((await tried(['dunlin'], { key, value }))[0]?.leftOut).toMatch(/what one machine is/);
  });

  it('a value that no kit takes, and a setting that none has, are left out with why', async () => {
    expect((await tried(['plover'], { key: 'heat.bed.max', value: 9000 }))[0]?.leftOut).toMatch(/must be from/); // prettier-ignore
    expect((await tried(['plover'], { key: 'no.such', value: 1 }))[0]?.leftOut).toMatch(/no setting no.such/);
    expect((await call('POST', '/fleet/setting/try', { ...wanted, machines: ['none'] })).status).toBe(404);
  });

  it('says in which settings two machines differ, their size aside', async () => {
    const apart = (await call('GET', '/fleet/apart/plover/dunlin')).body as { key: string }[];
    expect(apart.map(({ key }) => key)).toContain('probe.kind');
    expect(apart.some(({ key }) => /^(travel|bed\.[xy]|steps)\./.test(key))).toBe(false);
    expect((await call('GET', '/fleet/apart/plover/plover')).body).toEqual([]);
  });
});

describe('first power', () => {
  it('keeps what was read off a meter until it is taken back', async () => {
    const path = '/machines/plover/first-power';
    const reading = { asked: 'heater-hotend', expected: '14.4 Ω', said: '3.6' };
    expect((await call('PUT', path, reading)).body.notes).toMatchObject([reading]);
    expect((await call('PUT', path, { ...reading, said: '14.5' })).body.notes).toMatchObject([
      { said: '14.5' },
    ]);
    expect((await call('PUT', path, { ...reading, said: 'x'.repeat(41) })).status).toBe(400);
    expect((await call('PUT', path, { ...reading, said: null })).body).toEqual({ notes: [], voided: [] });
    expect((await call('GET', '/machines/none/first-power')).status).toBe(404);
  });
});
