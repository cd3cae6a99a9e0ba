import { describe, expect, it } from 'vitest';
import { serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const machine = async () => (await call('GET', '/machines/dunlin')).body;
const save = async (changed: object, label?: string) => {
  const now = await machine();
  return call('PUT', '/machines/dunlin', {
    version: now.version,
    machine: { ...now.machine, ...changed },
    ...(label && { label }),
  });
};
const edits = async () =>
  (await call('GET', '/machines/dunlin/edits')).body as { id: number; label: string; undone: boolean }[];

describe('changes of a machine file', () => {
  it('are kept with their names, undone and done again, also after the server was started anew', async () => {
    const { note } = (await machine()).machine;
    await save({ note: 'one' }, 'note one');
    await save({ note: 'two' }, 'note two');
    await server.restart();
    expect((await edits()).map(({ label }) => label)).toEqual(['note two', 'note one']);
    expect((await call('POST', '/machines/dunlin/undo')).body).toMatchObject({
      label: 'note two',
      machine: { note: 'one' },
    });
    expect((await call('POST', '/machines/dunlin/undo')).body).toMatchObject({ machine: { note } });
    expect((await call('POST', '/machines/dunlin/undo')).status).toBe(409);
    expect((await call('POST', '/machines/dunlin/redo')).body).toMatchObject({
      label: 'note one',
      machine: { note: 'one' },
    });
    expect((await edits()).map(({ undone }) => undone)).toEqual([true, false]);
  });
  it('a new change ends what could be done again', async () => {
    await call('POST', '/machines/dunlin/undo');
    await save({ place: 'elsewhere' }, 'place');
    expect((await call('POST', '/machines/dunlin/redo')).status).toBe(409);
    expect((await edits()).map(({ label }) => label)).toEqual(['place']);
  });
  it('undo takes back its own fields and leaves what was changed since elsewhere', async () => {
    await save({ note: 'mine' }, 'note mine');
    await save({ supply: { volts_v: 24, amps_a: 13 } });
    const { body } = await call('POST', '/machines/dunlin/undo');
    expect(body.machine.note).not.toBe('mine');
    expect(body.machine.supply.amps_a).toBe(13);
  });
  it('one is taken back by the version it led to, and made again; not where a field of it was changed since', async () => {
    const mine = await save({ note: 'by version' }, 'mine');
    await save({ place: 'another bench' }, 'of another window');
    const back = (way: string, version = mine.body.version) => call('POST', `/machines/dunlin/${way}?version=${version}`);
    expect((await back('undo')).body).toMatchObject({ label: 'mine', machine: { place: 'another bench' } });
    expect((await machine()).machine.note).not.toBe('by version');
    expect(await back('undo')).toMatchObject({ status: 409, body: { error: { code: 'nothing-to-do' } } });
    expect((await back('redo')).body.machine.note).toBe('by version');
    await save({ note: 'written over' }, 'over it');
    expect(await back('undo')).toMatchObject({ status: 422, body: { error: { code: 'not-so', message: expect.stringContaining('note') as string } } });
    expect((await machine()).machine.note).toBe('written over');
    expect((await back('undo', 'first')).status).toBe(400);
  }); // prettier-ignore

  it('a late save is told what stands there now and what led to it, and changes nothing', async () => {
    const old = await machine();
    await save({ note: 'newer' }, 'a newer note');
    const late = await call('PUT', '/machines/dunlin', {
      version: old.version,
      machine: { ...old.machine, place: 'x' },
      label: 'x',
    });
    expect(late).toMatchObject({
      status: 409,
      body: { error: { code: 'stale', current: { machine: { note: 'newer' } }, changes: ['a newer note'] } },
    });
    expect((await edits())[0]!.label).toBe('a newer note');
  });
  it('a refused change leaves no trace', async () => {
    const before = await edits();
    expect((await save({ board: { id: 'none', revision: '1' } }, 'bad')).status).toBe(422);
    expect(await edits()).toEqual(before);
  });
  it('the states of one change can be had; one that is not there is said so', async () => {
    const [last] = await edits();
    const { body } = await call('GET', `/machines/dunlin/edits/${last!.id}`);
    expect(body).toMatchObject({ label: 'a newer note', after: { note: 'newer' } });
    expect((await call('GET', '/machines/dunlin/edits/999999')).status).toBe(404);
    expect((await call('GET', '/machines/bittern/edits/1')).status).toBe(404);
  });
  it('a guard that is off stands on the shelf, set aside or not', async () => {
    const off = { value: false, source: 'override', because: 'test' };
    await save({
      settings: { 'guard.bed': off },
      waivers: { 'heat.guard-off guard.bed': { because: 'a test', machine: 'Dunlin' } },
    });
    const plate = (await call('GET', '/machines')).body.find(
      (entry: { machine: { id: string } }) => entry.machine.id === 'dunlin',
    );
    expect(plate.unguarded).toHaveLength(1);
    expect(plate.findings.stop).toBe(0);
  });
});
