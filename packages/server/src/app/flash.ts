import { randomUUID } from 'node:crypto';
import { around, type Card, powerOnWithCard } from '@jolly/bench';
import type { Flash, Flashed, StoredBoard, StoredCard } from '@jolly/contract/endpoints/board';
import { MOST_FLASHES } from '@jolly/contract/endpoints/board';
import { Refusal } from '@jolly/contract/refusal';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { boardInRecord } from '@jolly/core/flash/bootloaderKnown';
import { readImage } from '@jolly/core/image/imageHeader';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { saveBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { addFlash, listFlashes } from '../sql/flashes';
import { addImage, findImage } from '../sql/images';
import { boardOf, imageBytes, keyOf, loadState, storedAs } from './board';
import { theFacts, theMachine } from './known';
import { refuseWithoutWayBack } from './wayBack';

/** Flash attempts, newest first. */
export async function flashes(context: Within, id: string): Promise<Flash[]> {
  await theMachine(context, id);
  return listFlashes(context.db, id, MOST_FLASHES);
}

/** Power comes with the card in the slot: the bootloader takes the image or leaves it, and the attempt is recorded. */
export function flashFromCard(context: Context, id: string, laid: readonly string[]): Promise<Flashed> {
  // From reading the board to writing it nothing comes between: settings stored meanwhile wait, and are not lost.
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    const stored = await boardOf(within, facts);
    await refuseWithoutWayBack(within, id, stored);
    if (!stored.card) throw new Refusal('no-card', 'there is no card in the slot');
    const { outcome, board, file } = await powerOnWith(within, facts, stored, { card: stored.card, laid });
    await saveBoard(within.db, keyOf(facts), board);
    await addFlash(within.db, id, {
      id: randomUUID(),
      imageHash: file?.imageHash ?? null,
      route: 'card',
      does: 'write',
      board: boardInRecord(facts.machine),
      fromStart: false,
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
  { card, laid }: { card: StoredCard; laid: readonly string[] },
): Promise<{ outcome: CardOutcome; board: StoredBoard; file: StoredCard['files'][number] | undefined }> {
  const sold = asSold(facts);
  const lies = { state: await loadState(context, stored), card: await loadCard(context, card) };
  const at = around(facts, laid, lies);
  const after = powerOnWithCard(at.state, at.card, sold.board, sold.chip);
  const { outcome, state, card: left } = after;
  await storeChanged(context, state.image, lies.state.image);
  const board: StoredBoard = {
    ...storedAs(stored, state, state.image ? hashOf(state.image) : null),
    card: left && {
      ...card,
      files: left.files.map((entry, index) => ({
        name: entry.name,
        imageHash: card.files[index]?.imageHash ?? hashOf(entry.bytes),
      })),
    },
  };
  const file = card.files.find((entry) => outcome.taken && entry.name === outcome.name) ?? card.files[0];
  return { outcome, board, file };
}

/** A fault may have made another image of what lay on the card: it is stored before it is named. */
async function storeChanged(
  context: Within,
  image: Uint8Array | null,
  before: Uint8Array | null,
): Promise<void> {
  if (!image || image === before) return;
  const hash = hashOf(image);
  if (await findImage(context.db, hash)) return;
  await context.images.put(hash, image);
  const read = readImage(image);
  await addImage(context.db, { hash, bytes: image.length, ...('header' in read && { header: read.header }) });
}

async function loadCard(context: Within, card: StoredCard): Promise<Card> {
  const files = await Promise.all(
    card.files.map(async ({ name, imageHash }) => ({ name, bytes: await imageBytes(context, imageHash) })),
  );
  return { ...card, files };
}
