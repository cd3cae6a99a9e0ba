import { blankBoard, type BoardState } from '@jolly/bench';
import type { BoardOnBench, StoredBoard, StoredCard } from '@jolly/contract/endpoints/board';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import type { Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { type BoardKey, findBoard, saveBoard } from '../sql/boards';
import { findImage } from '../sql/images';
import { theFacts } from './known';

/** Which board on the bench the facts speak of. */
export const keyOf = (facts: Facts): BoardKey => ({ machine: facts.machine.id, board: facts.board });

/** The virtual board of a machine as stored; blank when it was never used. */
export async function boardOf(context: Within, facts: Facts): Promise<StoredBoard> {
  const stored = await findBoard(context.db, keyOf(facts));
  if (stored) return stored;
  const blank = blankBoard(facts.chip);
  return { imageHash: null, store: toBase64(blank.store), namesTaken: blank.namesTaken, card: null };
}

/** The virtual board of a machine with the header of the image in its flash. */
export async function boardOnBench(context: Within, id: string): Promise<BoardOnBench> {
  const board = await boardOf(context, await theFacts(context, id));
  const image = board.imageHash ? await findImage(context.db, board.imageHash) : undefined;
  return { ...board, ...(image?.header && { image: image.header }) };
}

/** Writes a card anew with what shall lie on it, or takes the card out of the slot. */
export function putCard(context: Context, id: string, card: StoredCard | null): Promise<StoredBoard> {
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    for (const file of card?.files ?? [])
      if (!(await findImage(within.db, file.imageHash))) throw notFound('image', file.imageHash);
    const board = { ...(await boardOf(within, facts)), card };
    await saveBoard(within.db, keyOf(facts), board);
    return board;
  });
}

/** Keeps the stored settings the firmware wrote. */
export function putStore(context: Context, id: string, store: string): Promise<void> {
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    const { bytes } = facts.chip.store;
    const { length } = fromBase64(store);
    if (length !== bytes)
      throw new Refusal('bad-value', `"store" must hold ${bytes} bytes; it has ${length}`, { path: 'store' });
    await saveBoard(within.db, keyOf(facts), { ...(await boardOf(within, facts)), store });
  });
}

/** What a stored board holds, with the bytes of its image. */
export async function loadState(context: Within, stored: StoredBoard): Promise<BoardState> {
  const image = stored.imageHash ? await imageBytes(context, stored.imageHash) : null;
  return { image, store: fromBase64(stored.store), namesTaken: stored.namesTaken };
}

/** The bytes of a stored image. @throws {Refusal} not-found */
export async function imageBytes({ images }: Pick<Within, 'images'>, hash: string): Promise<Uint8Array> {
  const bytes = await images.get(hash);
  if (!bytes) throw notFound('image', hash);
  return bytes;
}
