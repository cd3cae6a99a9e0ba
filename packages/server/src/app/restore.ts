import { randomUUID } from 'node:crypto';
import { writeByProgrammer } from '@jolly/bench';
import type { Flashed } from '@jolly/contract/endpoints/board';
import type { Kept } from '@jolly/contract/endpoints/kept';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import type { Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { saveBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { addFlash } from '../sql/flashes';
import { addImage } from '../sql/images';
import { findKept } from '../sql/kept';
import { boardOf, imageBytes, keyOf, loadState } from './board';
import { theFacts } from './known';

/** Writes a kept image back by programmer, reads it back, and records the attempt. */
export async function restore(context: Context, id: string, number: number): Promise<Flashed> {
  // Reading takes a thread and time, and is done before the transaction; that finds the same board and the same image.
  const { facts, kept } = await whatToWrite(context, id, number);
  const file = await context.reading.read('flash', {
    bytes: await imageBytes(context, kept.hash),
    board: facts.board,
    chip: facts.chip,
  });
  if ('problem' in file) throw new Refusal('bad-file', file.problem);
  const { bytes, header } = file;
  const imageHash = hashOf(bytes);
  await context.images.put(imageHash, bytes);
  return transact(context, async (within) => {
    await whatToWrite(within, id, number);
    const before = await boardOf(within, facts);
    const written = writeByProgrammer(await loadState(within, before), bytes, facts.chip);
    if ('refused' in written) throw new Refusal('no-room', written.refused);
    const outcome: CardOutcome = { taken: true, name: kept.name };
    const board = { ...before, imageHash };
    await addImage(within.db, { hash: imageHash, bytes: bytes.length, ...(header && { header }) });
    await saveBoard(within.db, keyOf(facts), board);
    await addFlash(within.db, id, {
      id: randomUUID(), imageHash, route: 'programmer', fileName: kept.name, at: context.now(), outcome,
    }); // prettier-ignore
    await addEntry(within.db, id, {
      at: context.now(),
      kind: 'flash',
      summary: `Restored ${kept.name} by programmer, ${bytes.length} bytes, read back the same`,
      detail: { imageHash, outcome },
    });
    return { outcome, board };
  });
}

/** The kept image and the board it shall go onto. @throws {Refusal} when it was kept from another board */
async function whatToWrite(
  context: Within,
  id: string,
  number: number,
): Promise<{ facts: Facts; kept: Kept }> {
  const facts = await theFacts(context, id);
  const kept = await findKept(context.db, id, number);
  if (!kept || kept.kind !== 'image' || kept.verdict === 'empty')
    throw notFound('kept image', String(number));
  const { board } = facts;
  if (kept.board.id !== board.id || kept.board.revision !== board.revision)
    throw new Refusal(
      'other-board',
      `${kept.name} was kept from ${kept.board.id} rev ${kept.board.revision}; the board here is ${board.id} rev ${board.revision}`,
    );
  return { facts, kept };
}
