import { randomUUID } from 'node:crypto';
import { blankBoard, type BoardState, type Card, type CardOutcome, powerOnWithCard } from '@jolly/bench';
import { type Facts, fromBase64, toBase64 } from '@jolly/core';
import { ApiError, notFound } from '../api/apiError.js';
import { type Context, factsOr422, machineOr404 } from '../context.js';
import { hashOf } from '../files/byteStore.js';
import { findBoard, saveBoard, type StoredBoard, type StoredCard } from '../sql/boards.js';
import { addEntry } from '../sql/entries.js';
import { addFlash } from '../sql/flashes.js';
import { findImage } from '../sql/images.js';

/** The virtual board of a machine as stored; blank when it was never used. */
export async function boardOf(context: Context, facts: Facts): Promise<StoredBoard> {
  const stored = await findBoard(context.db, facts.machine.id);
  if (stored) return stored;
  const blank = blankBoard(facts.chip);
  return { imageHash: null, store: toBase64(blank.store), namesTaken: blank.namesTaken, card: null };
}

/** Changes the stored board with nothing else in between. */
async function changeBoard(
  context: Context,
  facts: Facts,
  change: (board: StoredBoard) => StoredBoard,
): Promise<StoredBoard> {
  return context.db.transaction(async (inside) => {
    const board = change(await boardOf({ ...context, db: inside }, facts));
    await saveBoard(inside, facts.machine.id, board);
    return board;
  });
}

/** Writes a card anew with one image on it, or takes the card out of the slot. */
export async function putCard(
  context: Context,
  machineId: string,
  card: StoredCard | null,
): Promise<StoredBoard> {
  const facts = factsOr422(context, (await machineOr404(context, machineId)).machine);
  for (const file of card?.files ?? [])
    if (!(await findImage(context.db, file.imageHash))) throw notFound('image', file.imageHash);
  return changeBoard(context, facts, (board) => ({ ...board, card }));
}

/** Power comes with the card in the slot: the bootloader takes the image or leaves it, and the attempt is recorded. */
export async function flashFromCard(
  context: Context,
  machineId: string,
): Promise<{ outcome: CardOutcome; board: StoredBoard }> {
  const facts = factsOr422(context, (await machineOr404(context, machineId)).machine);
  const stored = await boardOf(context, facts);
  if (!stored.card) throw new ApiError(409, 'no-card', 'there is no card in the slot');
  const result = powerOnWithCard(
    await loadState(context, stored),
    await loadCard(context, stored.card),
    facts.board,
    facts.chip,
  );
  const { outcome } = result;
  const file =
    stored.card.files.find((entry) => outcome.taken && entry.name === outcome.name) ?? stored.card.files[0];
  const board: StoredBoard = {
    ...stored,
    imageHash: result.state.image ? hashOf(result.state.image) : null,
    namesTaken: result.state.namesTaken,
    card: result.card && {
      ...stored.card,
      files: result.card.files.map((entry) => ({ name: entry.name, imageHash: hashOf(entry.bytes) })),
    },
  };
  await context.db.transaction(async (inside) => {
    await saveBoard(inside, machineId, board);
    await addFlash(inside, machineId, {
      id: randomUUID(),
      imageHash: file?.imageHash ?? null,
      route: 'card',
      fileName: file?.name ?? '',
      at: context.now(),
      outcome,
    });
    const header = file && (await findImage(inside, file.imageHash))?.header;
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'flash',
      summary: outcome.taken
        ? `Flashed ${header?.name}, build ${header?.buildId}, from ${file?.name}`
        : `Flash refused: ${outcome.because}`,
      detail: { imageHash: file?.imageHash, outcome },
    });
  });
  return { outcome, board };
}

/** Keeps the stored settings the firmware wrote. */
export async function putStore(context: Context, machineId: string, store: string): Promise<void> {
  const facts = factsOr422(context, (await machineOr404(context, machineId)).machine);
  const length = fromBase64(store).length;
  if (length !== facts.chip.store.bytes)
    throw new ApiError(
      400,
      'bad-value',
      `"store" must hold ${facts.chip.store.bytes} bytes; it has ${length}`,
      { path: 'store' },
    );
  await changeBoard(context, facts, (board) => ({ ...board, store }));
}

async function loadState(context: Context, stored: StoredBoard): Promise<BoardState> {
  const image = stored.imageHash ? await imageBytes(context, stored.imageHash) : null;
  return { image, store: fromBase64(stored.store), namesTaken: stored.namesTaken };
}

async function loadCard(context: Context, card: StoredCard): Promise<Card> {
  const files = await Promise.all(
    card.files.map(async ({ name, imageHash }) => ({ name, bytes: await imageBytes(context, imageHash) })),
  );
  return { ...card, files };
}

/** The bytes of a stored image. @throws {ApiError} 404 */
export async function imageBytes(context: Context, hash: string): Promise<Uint8Array> {
  const bytes = await context.images.get(hash);
  if (!bytes) throw notFound('image', hash);
  return bytes;
}
