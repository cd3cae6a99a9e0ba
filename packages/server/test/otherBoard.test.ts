import { describe, expect, it } from 'vitest';
import { serverForTests } from './fixtures/server';

const { call } = serverForTests();

describe('a job that goes on with another board', () => {
  const plover = async () => (await call('GET', '/machines/plover')).body;
  const onto = async (board: string, revision: string) => {
    const { job, version } = (await call('GET', '/machines/plover/job')).body.job;
    const { title, taken, done } = job;
    const changes = job.changes.map((change: { kind: string }) =>
      change.kind === 'new-board' ? { ...change, board, revision } : change,
    );
    return call('PUT', '/machines/plover/job', { version, title, changes, taken, done });
  };
  it('leaves what was wired by hand with the board before, and takes it up with it again', async () => {
    const { machine, version } = await plover();
    const fan = { leads: { supply: 'FAN-3.1', control: 'FAN-3.2' } };
    const wired = { ...machine, harness: { ...machine.harness, 'part-fan': fan } };
    expect((await call('PUT', '/machines/plover', { version, machine: wired })).status).toBe(200);
    const away = await onto('harrow-h6', 'A');
    expect(away).toMatchObject({ status: 200, body: { kept: [], left: ['landing of part-fan'] } });
    expect((await call('GET', '/machines/plover/entries')).body[0].summary).toBe(
      'Set by hand for Alder A32 rev 1.1, and left with it: landing of part-fan',
    );
    expect((await plover()).machine.board.id).toBe('harrow-h6');
    expect(await onto('alder-a32', '1.1')).toMatchObject({ status: 200, body: { left: [] } });
    expect((await plover()).machine).toEqual(wired);
  });
});
