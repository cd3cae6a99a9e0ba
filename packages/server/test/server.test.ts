import { readImageFile } from '@jolly/core/image/imageFile';
import { readImage } from '@jolly/core/image/imageHeader';
import { beforeAll, describe, expect, it } from 'vitest';
import { runOnBoard } from './fixtures/runOnBoard';
import { followed, serverForTests, somethingToCompile } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const machine = async (id: string) => (await call('GET', `/machines/${id}`)).body;

/** A run of what is in Plover's flash, asked who it is. */
const recordedRun = async () => (await runOnBoard(server, 'plover', ['M115'])).recording;

describe('machines', () => {
  it('the shelf holds the three of the demo, each with its findings', async () => {
    const { body } = await call('GET', '/machines');
    expect(body.map((plate: { machine: { name: string } }) => plate.machine.name).sort()).toEqual([
      'Bittern',
      'Dunlin',
      'Plover',
    ]);
    const dunlin = body.find((plate: { machine: { id: string } }) => plate.machine.id === 'dunlin');
    expect(dunlin.findings.question).toBe(3);
    // Tested once, with an image that nobody knows: on record, and no proof of what runs.
    const { entries } = (await call('GET', '/machines/dunlin/timeline?kinds=proof')).body;
    expect(dunlin).toMatchObject({ proofs: [], lastProofAt: entries[0].at });
  });
  it('a save counts the version up; a stale one is told so and changes nothing', async () => {
    const first = await machine('dunlin');
    const saved = await call('PUT', '/machines/dunlin', {
      version: first.version,
      machine: { ...first.machine, note: 'one' },
    });
    expect(saved.body.version).toBe(first.version + 1);
    const stale = await call('PUT', '/machines/dunlin', {
      version: first.version,
      machine: { ...first.machine, note: 'two' },
    });
    expect(stale).toMatchObject({
      status: 409,
      body: { error: { code: 'stale', version: first.version + 1 } },
    });
    expect((await machine('dunlin')).machine.note).toBe('one');
  });
  it.each([
    [
      'an option out of range',
      { settings: { 'speed.x': { value: 1e7, source: 'override', because: 'x' } } },
      422,
      'settings.speed.x.value',
    ],
    ['an unknown board', { board: { id: 'no-board', revision: '1' } }, 422, 'board'],
    ['a wrong type', { supply: { volts_v: 'much', amps_a: 1 } }, 400, 'machine.supply.volts_v'],
    ['an unknown key', { colour: 'red' }, 400, 'machine.colour'],
    ['another id', { id: 'plover' }, 400, 'machine.id'],
  ])('%s is refused at its place and nothing is saved', async (_what, change, status, path) => {
    const before = await machine('dunlin');
    const answer = await call('PUT', '/machines/dunlin', {
      version: before.version,
      machine: { ...before.machine, ...change },
    });
    expect(answer).toMatchObject({ status, body: { error: { path } } });
    expect(await machine('dunlin')).toEqual(before);
  });
  it('a machine file can be taken out, changed and added; a malformed one is refused with its line', async () => {
    const file = (await call('GET', '/machines/bittern/file')).body as string;
    const added = await call('POST', '/machines', {
      file: file.replace('id: bittern', 'id: curlew').replace('name: Bittern', 'name: Curlew'),
    });
    expect(added.body.machine.name).toBe('Curlew');
    expect((await call('POST', '/machines', { file })).body.error.code).toBe('id-taken');
    const broken = await call('POST', '/machines', { file: file.replace('volts_v: 24', 'volts_v: none') });
    expect(broken).toMatchObject({
      status: 422,
      body: { error: { code: 'bad-file', path: 'supply.volts_v' } },
    });
    expect(broken.body.error.message).toMatch(/^line \d+, column \d+:/);
  });
});

describe('builds and flashes', () => {
  it('a build runs with progress, gives a readable image, is the same twice, and goes into the logbook', async () => {
    await somethingToCompile(call, 'plover');
    const started = await call('POST', '/machines/plover/builds');
    expect(started.body.state).toBe('running');
    const events = await followed(server.address(), `/builds/${started.body.id}/events`);
    expect(events.filter((event) => event === 'progress').length).toBeGreaterThan(20);
    expect(events.at(-1)).toBe('ended');
    const build = (await call('GET', `/builds/${started.body.id}`)).body;
    expect(build.state).toBe('done');
    const bytes = new Uint8Array(
      await (await fetch(`${server.address()}/api/images/${build.imageHash}`)).arrayBuffer(),
    );
    expect(readImage(bytes)).toMatchObject({ header: { name: 'Plover', buildId: build.buildId } });
    expect(bytes.length).toBe(build.sizes.flashBytes);
    const again = await call('POST', '/machines/plover/builds');
    await followed(server.address(), `/builds/${again.body.id}/events`);
    expect((await call('GET', `/builds/${again.body.id}`)).body).toMatchObject({
      imageHash: build.imageHash,
      compiled: 0,
    });
    const entries = (await call('GET', '/machines/plover/entries')).body;
    expect(entries[0]).toMatchObject({ kind: 'build', detail: { imageHash: build.imageHash } });
    for (const format of ['bin', 'hex', 'uf2']) {
      const file = await fetch(`${server.address()}/api/images/${build.imageHash}/file/${format}`);
      expect(file.headers.get('content-disposition')).toContain(`-${build.buildId}.${format}`);
      const read = readImageFile(new Uint8Array(await file.arrayBuffer()));
      expect(read).toMatchObject({ format });
    }
    expect((await call('GET', `/images/${build.imageHash}/file/elf`)).status).toBe(400);
    expect((await call('GET', `/images/${'0'.repeat(64)}/file/hex`)).status).toBe(404);
  });

  it('one changed setting compiles its readers only', async () => {
    const { machine: plover, version } = await machine('plover');
    await call('PUT', '/machines/plover', {
      version,
      machine: {
        ...plover,
        settings: { ...plover.settings, 'probe.clear': { value: 9, source: 'override', because: 'test' } },
      },
    });
    const { body } = await call('POST', '/machines/plover/builds');
    await followed(server.address(), `/builds/${body.id}/events`);
    const build = (await call('GET', `/builds/${body.id}`)).body;
    expect(build.changed).toEqual(['probe.clear']);
    // Probe, touch, repeatability, homing and the table of features are the only readers of the probe's options.
    expect(build.compiled).toBeLessThanOrEqual(5);
  });

  it('a finding that stops refuses the build', async () => {
    const before = await machine('bittern');
    await call('PUT', '/machines/bittern', {
      version: before.version,
      machine: {
        ...before.machine,
        settings: { 'guard.bed': { value: false, source: 'override', because: 'test' } },
      },
    });
    const answer = await call('POST', '/machines/bittern/builds');
    expect(answer).toMatchObject({ status: 409, body: { error: { code: 'stopped' } } });
    expect(answer.body.error.findings[0].id).toBe('heat.guard-off');
    expect((await call('GET', '/machines/bittern/builds')).body).toEqual([]);
  });

  it('a cancelled build stores nothing, and the next one runs', async () => {
    await somethingToCompile(call, 'dunlin');
    const started = await call('POST', '/machines/dunlin/builds');
    const cancelled = await call('POST', `/builds/${started.body.id}/cancel`);
    expect(cancelled.body.state).toBe('cancelled');
    expect(cancelled.body.imageHash).toBeUndefined();
    expect((await call('POST', `/builds/${started.body.id}/cancel`)).status).toBe(409);
    const next = await call('POST', '/machines/dunlin/builds');
    await followed(server.address(), `/builds/${next.body.id}/events`);
    expect((await call('GET', `/builds/${next.body.id}`)).body.state).toBe('done');
  });

  beforeAll(() =>
    call('POST', '/machines/plover/waivers', {
      check: 'keep.no-way-back',
      because: 'the old board itself is the way back',
    }),
  );
  it('the card is taken once, its name remembered, and the outcome recorded', async () => {
    const [build] = (await call('GET', '/machines/plover/builds')).body;
    const write = (name: string) =>
      call('PUT', '/machines/plover/board/card', {
        card: { format: 'FAT32', sizeGb: 8, files: [{ name, imageHash: build.imageHash }] },
      });
    await write('PLOV1.BIN');
    expect((await call('POST', '/machines/plover/flashes', { laid: [] })).body).toMatchObject({
      outcome: { taken: true, renamedTo: 'PLOV1.OLD' },
      board: { imageHash: build.imageHash, namesTaken: ['PLOV1.BIN'] },
    });
    await write('PLOV1.BIN');
    expect((await call('POST', '/machines/plover/flashes', { laid: [] })).body.outcome).toMatchObject({
      taken: false,
      reason: 'name used',
    });
    expect((await call('GET', '/machines/plover/flashes')).body).toHaveLength(2);
    expect((await call('GET', '/machines/plover/entries')).body[0].summary).toMatch(/^Flash refused/);
    await call('PUT', '/machines/plover/board/card', { card: null });
    expect((await call('POST', '/machines/plover/flashes', { laid: [] })).body.error.code).toBe('no-card');
  });

  it('a proof belongs to the image in the flash', async () => {
    const recording = await recordedRun();
    const tested = { step: 'identity', outcome: 'proven', evidence: ['it says so'], recording };
    const proven = await call('POST', '/machines/plover/proofs', tested);
    expect(proven.body.proofs).toMatchObject([{ step: 'identity', outcome: 'proven' }]);
    const dance = await call('POST', '/machines/plover/proofs', { ...tested, step: 'dance' });
    expect(dance.body.error.path).toBe('step');
    expect((await call('POST', '/machines/dunlin/proofs', tested)).body.error.code).toBe('no-image');
  });

  it('a proof belongs to the machine as it was: with another fact it is void, with the old one it holds again', async () => {
    const { machine: before } = await machine('plover');
    const save = async (changed: object) =>
      call('PUT', '/machines/plover', { version: (await machine('plover')).version, machine: { ...before, ...changed } }); // prettier-ignore
    const outcomes = async () => {
      const { proofs, voided } = (await call('GET', '/machines/plover/proofs')).body;
      const plate = (await call('GET', '/machines')).body.find((one: any) => one.machine.id === 'plover'); // eslint-disable-line @typescript-eslint/no-explicit-any
      return { proofs: proofs.length, shelf: plate.proofs.length, voided };
    };
    expect(await outcomes()).toEqual({ proofs: 1, shelf: 1, voided: [] });
    await save({ jumpers: { USB: 'usb' } });
    const voided = [{ step: 'identity', outcome: 'proven', because: 'the board is not as it was when it was tested' }]; // prettier-ignore
    expect(await outcomes()).toMatchObject({ proofs: 0, shelf: 0, voided });
    await save({});
    expect(await outcomes()).toEqual({ proofs: 1, shelf: 1, voided: [] });
  });

  it('a proof whose run says something else when it is run again is refused', async () => {
    const recording = await recordedRun();
    const entries = (await call('GET', '/machines/plover/entries')).body.length;
    const [input] = recording.inputs;
    const others = [
      { ...recording, sum: (recording.sum ^ 1) >>> 0 },
      { ...recording, heard: recording.heard + 1 },
      { ...recording, seed: 2, untilNs: 40e9, inputs: [{ atNs: 1e9, line: 'G28' }] },
      { ...recording, inputs: [{ ...input!, line: 'M119' }] },
      { ...recording, untilNs: 1e15 },
    ];
    for (const other of others) {
      const answer = await call('POST', '/machines/plover/proofs', {
        step: 'identity',
        outcome: 'proven',
        evidence: [],
        recording: other,
      });
      expect(answer.body.error.code).toBe('not-so');
    }
    expect((await call('GET', '/machines/plover/entries')).body).toHaveLength(entries);
  });

  it('refuses as proven what rests on steps that are not', async () => {
    const recording = await recordedRun();
    const answer = await call('POST', '/machines/plover/proofs', {
      step: 'home',
      outcome: 'proven',
      evidence: ['homed xyz'],
      recording,
    });
    expect(answer.body.error).toMatchObject({
      code: 'not-so',
      message: expect.stringContaining('X switch reads both ways') as string,
    });
    const failed = {
      step: 'home',
      outcome: 'failed',
      evidence: ['it hit the frame'],
      finding: 'refused',
      recording,
    };
    const kept = (await call('POST', '/machines/plover/proofs', failed)).body;
    expect(kept.proofs.find((proof: { step: string }) => proof.step === 'home')).toMatchObject({
      outcome: 'failed',
      finding: 'refused',
    });
  });
});

describe('the shelf', () => {
  it('tells of each machine what is asked of it alone', async () => {
    await call('PUT', '/machines/dunlin/policy', { policy: 'stay' });
    const plates = (await call('GET', '/machines')).body as { machine: { id: string } }[];
    expect(plates).toHaveLength(4);
    let [flashed, built, due, open] = [0, 0, 0, 0];
    for (const plate of plates) {
      const of = async (what: string) => (await call('GET', `/machines/${plate.machine.id}/${what}`)).body;
      const { upkeep } = await of('calibrations');
      const dueTitles = upkeep.filter((one: { state: string }) => one.state === 'due').map((one: { title: string }) => one.title); // prettier-ignore
      const { image } = await of('board');
      const [lastBuild] = await of('builds');
      const { job } = await of('job');
      const { policy } = await of('policy');
      const { machine: stored, version } = await machine(plate.machine.id);
      expect(plate).toMatchObject({
        machine: stored, version, dueTitles, due: dueTitles.length,
        proofs: image ? (await of('proofs')).proofs : [],
        ...(image && { image }), ...(lastBuild && { lastBuild }), ...(policy && { policy }),
        ...(job && { job: { title: job.job.title, state: job.state } }),
      }); // prettier-ignore
      for (const [name, told] of Object.entries({ image, lastBuild, job, policy }))
        expect([name, name in plate]).toEqual([name, Boolean(told)]);
      [flashed, built, due, open] = [flashed + Number(Boolean(image)), built + Number(Boolean(lastBuild)), due + dueTitles.length, open + Number(Boolean(job))]; // prettier-ignore
    }
    // Each was there to be told, somewhere.
    for (const count of [flashed, built, due, open]) expect(count).toBeGreaterThan(0);
  });
});
