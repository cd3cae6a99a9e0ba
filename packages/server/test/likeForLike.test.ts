import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { describe, expect, it } from 'vitest';
import { serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
/** What a board answered over the link, to be kept. */
const told = async (steps: number) => {
  const headers = { 'Content-Type': 'application/octet-stream' };
  const path = `${server.address()}/api/machines/dunlin/kept/dump?name=${steps}.txt&source=link`;
  const reply = await fetch(path, { method: 'POST', headers, body: `M92 X${steps} Y80 Z400 E98\n` });
  return { status: reply.status, body: await reply.text() };
};
const of = async (what: string) => (await call('GET', `/machines/dunlin${what}`)).body;

describe('a board that is replaced like for like', () => {
  it('holds nothing of the old one, whose store and ticks come back with it', async () => {
    const tick = { asked: 'polarity', expected: 'Plus on plus', said: 'seen' };
    const store = toBase64(fromBase64((await of('/board')).store).fill(7));
    expect((await call('PUT', '/machines/dunlin/board/store', { store })).status).toBe(200);
    await call('PUT', '/machines/dunlin/first-power', tick);
    const old = await of('/board');
    expect((await told(80)).status).toBe(200);
    expect(await of('/first-power')).toMatchObject({ notes: [tick], voided: [] });

    const changes = [{ id: 'copy', kind: 'same-board' }];
    const job = { title: 'A new copy', reason: 'bug', changes, taken: ['copy'] };
    expect((await call('POST', '/machines/dunlin/job', job)).status).toBeLessThan(300);
    expect((await of('')).machine.board).toMatchObject({ copy: 2 });
    const fresh = await of('/board');
    expect(fresh.store).not.toBe(old.store);
    expect(fresh).toMatchObject({ imageHash: null, namesTaken: [] });
    // What answers now is the new one; its values are none that somebody tuned on the old one.
    expect(await told(81)).toMatchObject({ status: 409, body: expect.stringContaining('copy 2') as string });
    expect((await of('/kept')).bench).toMatchObject({ isWanted: true });
    expect(await of('/first-power')).toMatchObject({ notes: [], voided: [{ asked: 'polarity' }] });

    expect((await call('POST', '/machines/dunlin/job/state', { state: 'abandoned', putBack: true })).status).toBe(200); // prettier-ignore
    expect(await of('/board')).toEqual(old);
    expect(await of('/first-power')).toMatchObject({ notes: [tick], voided: [] });
  });
});
