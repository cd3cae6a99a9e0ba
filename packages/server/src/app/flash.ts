import { randomUUID } from 'node:crypto';
import { type Card, powerOnWithCard } from '@jolly/bench';
import type { Flash, Flashed, StoredBoard, StoredCard } from '@jolly/contract/endpoints/board';
import { MOST_FLASHES } from '@jolly/contract/endpoints/board';
import { Refusal } from '@jolly/contract/refusal';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import type { Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { saveBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { addFlash, listFlashes } from '../sql/flashes';
import { findImage } from '../sql/images';
import { boardOf, imageBytes, keyOf, loadState } from './board';
import { theFacts, theMachine } from './known';
import { refuseWithoutWayBack } from './wayBack';

/** Flash attempts, newest first. */
export async function flashes(context: Within, id: string): Promise<Flash[]> {
  await theMachine(context, id);
  return listFlashes(context.db, id, MOST_FLASHES);
}

/** Power comes with the card in the slot: the bootloader takes the image or leaves it, and the attempt is recorded. */
export function flashFromCard(context: Context, id: string): Promise<Flashed> {
  // From reading the board to writing it nothing comes between: settings stored meanwhile wait, and are not lost.
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    const stored = await boardOf(within, facts);
    await refuseWithoutWayBack(within, id, stored);
    if (!stored.card) throw new Refusal('no-card', 'there is no card in the slot');
    const { outcome, board, file } = await powerOnWith(within, facts, stored, stored.card);
    await saveBoard(within.db, keyOf(facts), board);
    await addFlash(within.db, id, {
      id: randomUUID(),
      imageHash: file?.imageHash ?? null,
      route: 'card',
      fileName: file?.name ?? '',
      at: context.now(),
      outcome,
    });
    await recordFlash(within, id, outcome, file);
    return { outcome, board };
  });
}

async function recordFlash(
  { db, now }: Within,
  id: string,
  outcome: CardOutcome,
  file: StoredCard['files'][number] | undefined,
): Promise<void> {
  const header = file && (await findImage(db, file.imageHash))?.header;
  await addEntry(db, id, {
    at: now(),
    kind: 'flash',
    summary: outcome.taken
      ? `Flashed ${header?.name ?? 'a foreign image'}, build ${header?.buildId ?? 'unknown'}, from ${file?.name}`
      : `Flash refused: ${outcome.because}`,
    detail: { ...(file && { imageHash: file.imageHash }), outcome },
  });
}

/** What the bootloader makes of the card, and which of its files it was about. */
async function powerOnWith(
  context: Within,
  facts: Facts,
  stored: StoredBoard,
  card: StoredCard,
): Promise<{ outcome: CardOutcome; board: StoredBoard; file: StoredCard['files'][number] | undefined }> {
  const before = await loadState(context, stored);
  const after = powerOnWithCard(before, await loadCard(context, card), facts.board, facts.chip);
  const { outcome, state, card: left } = after;
  const board: StoredBoard = {
    ...stored,
    imageHash: state.image ? hashOf(state.image) : null,
    namesTaken: state.namesTaken,
    card: left && {
      ...card,
      files: left.files.map((entry) => ({ name: entry.name, imageHash: hashOf(entry.bytes) })),
    },
  };
  const file = card.files.find((entry) => outcome.taken && entry.name === outcome.name) ?? card.files[0];
  return { outcome, board, file };
}

async function loadCard(context: Within, card: StoredCard): Promise<Card> {
  const files = await Promise.all(
    card.files.map(async ({ name, imageHash }) => ({ name, bytes: await imageBytes(context, imageHash) })),
  );
  return { ...card, files };
}
