import type { Proofs } from '@jolly/contract/endpoints/board';
import { beforeAll, describe, expect, it } from 'vitest';
import { runOnBoard } from './fixtures/runOnBoard';
import { followed, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const plover = '/machines/plover';

/** Plover's own image in its flash, who it is and its stored settings proven. */
beforeAll(async () => {
  const { body } = await call('POST', `${plover}/builds`);
  await followed(server.address(), `/builds/${body.id}/events`);
  const { imageHash } = (await call('GET', `/builds/${body.id}`)).body;
  await call('POST', `${plover}/waivers`, { check: 'keep.no-way-back', because: 'the old board itself is the way back' }); // prettier-ignore
  await call('PUT', `${plover}/board/card`, { card: { format: 'FAT32', sizeGb: 8, files: [{ name: 'PLOV1.BIN', imageHash }] } }); // prettier-ignore
  await call('POST', `${plover}/flashes`, { laid: [] });
  await prove('identity', ['M115']);
  await prove('store', ['M502', 'M500', 'M501']);
}, 120_000);

/** What a board does with lines, and what it stored by then; kept as a window keeps it. */
async function said(lines: readonly string[]) {
  const { recording, store } = await runOnBoard(server, 'plover', lines);
  expect((await call('PUT', `${plover}/board/store`, { store })).status).toBe(200);
  return recording;
}

async function prove(step: string, lines: readonly string[]): Promise<void> {
  const recording = await said(lines);
  const proven = await call('POST', `${plover}/proofs`, { step, outcome: 'proven', evidence: [], recording });
  expect(proven.status).toBe(200);
}

async function holding() {
  const { proofs, voided } = (await call('GET', `${plover}/proofs`)).body as Proofs;
  const plates = (await call('GET', '/machines')).body as { machine: { id: string }; proofs: Proofs['proofs'] }[]; // prettier-ignore
  const stepsOf = (list: Proofs['proofs'] = []) => list.map(({ step }) => step).sort();
  const onShelf = plates.find(({ machine }) => machine.id === 'plover')?.proofs;
  expect(stepsOf(onShelf)).toEqual(stepsOf(proofs));
  return { proven: stepsOf(proofs), voided: voided.map(({ step, because }) => ({ step, because })) };
}

describe('what the board stores after its stored settings were proven', () => {
  it('voids that when it is stored by hand, and holds again once the machine file has it, or it is as it was', async () => {
    expect(await holding()).toEqual({ proven: ['identity', 'store'], voided: [] });

    // Told and not stored, it is gone with the power.
    await said(['M92 X200']);
    expect((await holding()).voided).toEqual([]);

    await said(['M92 X200', 'M500']);
    const because = 'the board stores 200 steps/mm as “X steps”, the machine file has 100 steps/mm; it stored 100 steps/mm when it was tested'; // prettier-ignore
    expect(await holding()).toEqual({ proven: ['identity'], voided: [{ step: 'store', because }] });

    const { machine, version } = (await call('GET', plover)).body;
    const own = { 'steps.x': { value: 200, source: 'override', because: 'measured' } };
    await call('PUT', plover, {
      version,
      machine: { ...machine, settings: { ...machine.settings, ...own } },
    });
    expect((await holding()).voided).toEqual([]);
    // Taken back in the file, as `u` does, it is still what the board works with.
    await call('PUT', plover, { version: version + 1, machine });
    expect((await holding()).voided).toEqual([{ step: 'store', because }]);

    await said(['M502', 'M500']);
    expect(await holding()).toEqual({ proven: ['identity', 'store'], voided: [] });
  }, 120_000);
});
