import { blankBoard, type BoardState, packed, unpacked } from '@jolly/bench';
import {
  type BoardOnBench,
  MOST_FLASHES,
  type StoredBoard,
  type StoredCard,
  type TurnedScrew,
} from '@jolly/contract/endpoints/board';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { fromBase64 } from '@jolly/core/bytes/base64';
import { bootloaderKnown } from '@jolly/core/flash/bootloaderKnown';
import type { BootloaderKnown } from '@jolly/core/flash/chooseRoute';
import { sameBoard } from '@jolly/core/machine/same';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { type BoardKey, findBoard, saveBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { listFlashes } from '../sql/flashes';
import { findImage } from '../sql/images';
import { listKept } from '../sql/kept';
import { saveTurnedScrews, turnedScrews } from '../sql/screws';
import { guardsOffInImages } from './unguardedImages';
import { theFacts, theMachine } from './known';

/** Which board on the bench the facts speak of. */
export const keyOf = ({ machine }: Facts): BoardKey => ({ machine: machine.id, board: machine.board });

/** The virtual board of a machine as stored; blank when it was never used. */
export async function boardOf(context: Within, facts: Facts): Promise<StoredBoard> {
  const stored = await findBoard(context.db, keyOf(facts));
  if (stored) return stored;
  const blank = blankBoard(asSold(facts).chip);
  return { imageHash: null, card: null, ...packed(blank) };
}

/** The virtual board of a machine with the header of the image in its flash. */
export async function boardOnBench(context: Within, id: string): Promise<BoardOnBench> {
  const facts = await theFacts(context, id);
  const board = await boardOf(context, facts);
  const image = board.imageHash ? await findImage(context.db, board.imageHash) : undefined;
  const bootloader = await knownBootloader(context, id, { ...facts, ...asSold(facts) });
  const screws = await turnedScrews(context.db, id);
  const guardsOff = board.imageHash
    ? (await guardsOffInImages(context.db, [board.imageHash])).get(board.imageHash)
    : undefined;
  return {
    ...board,
    bootloader,
    ...(screws.length > 0 && { screws }),
    ...(image?.header && { image: image.header }),
    ...(guardsOff && { guardsOff: [...guardsOff] }),
  };
}

/** Whether a board has a bootloader, out of what was flashed and what was read out. */
async function knownBootloader({ db }: Within, id: string, facts: Facts): Promise<BootloaderKnown> {
  const readOut = (await listKept(db, id)).find(
    ({ kind, board }) => kind === 'bootloader' && sameBoard({ board }, facts.machine),
  );
  return bootloaderKnown(facts, await listFlashes(db, id, MOST_FLASHES), readOut);
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

/** A file was written on a real card and read back: its name counts as used, because nobody here sees whether that board took it. */
export function wroteCard(context: Context, id: string, fileName: string, imageHash: string): Promise<StoredBoard> {
  return transact(context, async (within) => {
    const facts = await theFacts(within, id);
    await imageBytes(within, imageHash);
    const header = (await findImage(within.db, imageHash))?.header;
    const before = await boardOf(within, facts);
    const names = before.namesWritten ?? [];
    const board = { ...before, namesWritten: [...names.filter((name) => name !== fileName), fileName] };
    await saveBoard(within.db, keyOf(facts), board);
    await addEntry(within.db, id, {
      at: context.now(),
      kind: 'flash',
      summary: `Wrote ${header ? `${header.name}, build ${header.buildId},` : 'a foreign image'} to a real card as ${fileName}; it reads back the same`,
    });
    return board;
  });
} // prettier-ignore

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

/** Keeps how far hands have turned the screws of the plate. */
export function putScrews(context: Context, id: string, screws: readonly TurnedScrew[]): Promise<void> {
  return transact(context, async (within) => {
    await theMachine(within, id);
    await saveTurnedScrews(within.db, id, screws);
  });
}

/** What a stored board holds, with the bytes of its image. */
export async function loadState(context: Within, stored: StoredBoard): Promise<BoardState> {
  const image = stored.imageHash ? await imageBytes(context, stored.imageHash) : null;
  return unpacked(stored, image);
}

/** A board as it is stored once its flash was written; the bytes of the image are stored by whoever asks. */
export function storedAs(before: StoredBoard, state: BoardState, imageHash: string | null): StoredBoard {
  const { card, namesWritten } = before;
  return { card, imageHash, ...packed(state), ...(namesWritten && { namesWritten }) };
}

/** The bytes of a stored image. @throws {Refusal} not-found */
export async function imageBytes({ images }: Pick<Within, 'images'>, hash: string): Promise<Uint8Array> {
  const bytes = await images.get(hash);
  if (!bytes) throw notFound('image', hash);
  return bytes;
}
