import { randomUUID } from 'node:crypto';
import {
  blankBoard,
  type BoardState,
  type Card,
  type CardOutcome,
  powerOnWithCard,
  writeByProgrammer,
} from '@jolly/bench';
import type { Finding } from '@jolly/core/finding/finding';
import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { wayBackFindings } from '@jolly/core/image/wayBack';
import { ApiError, notFound } from '../api/apiError';
import { type Context, factsOr422, machineOr404 } from '../context';
import { hashOf } from '../files/byteStore';
import { type BoardKey, findBoard, saveBoard, type StoredBoard, type StoredCard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { addFlash } from '../sql/flashes';
import { addImage, findImage } from '../sql/images';
import { openJob } from '../sql/jobs';
import { findKept, listKept } from '../sql/kept';
import { listWaivers } from '../sql/waivers';

/** Which board on the bench the facts speak of. */
export const keyOf = (facts: Facts): BoardKey => ({ machine: facts.machine.id, board: facts.board });

/** The virtual board of a machine as stored; blank when it was never used. */
export async function boardOf(context: Context, facts: Facts): Promise<StoredBoard> {
  const stored = await findBoard(context.db, keyOf(facts));
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
    await saveBoard(inside, keyOf(facts), board);
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
  // One transaction from reading the board to writing it: settings stored meanwhile wait, and are not lost.
  return context.db.transaction(async (inside) => {
    const within = { ...context, db: inside };
    const stored = await boardOf(within, facts);
    await refuseWithoutWayBack(within, machineId, stored);
    if (!stored.card) throw new ApiError(409, 'no-card', 'there is no card in the slot');
    const { outcome, board, file } = await powerOnWith(within, facts, stored, stored.card);
    await saveBoard(inside, keyOf(facts), board);
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
        ? `Flashed ${header?.name ?? 'a foreign image'}, build ${header?.buildId ?? 'unknown'}, from ${file?.name}`
        : `Flash refused: ${outcome.because}`,
      detail: { imageHash: file?.imageHash, outcome },
    });
    return { outcome, board };
  });
}

/** What the bootloader makes of the card, and which of its files it was about. */
async function powerOnWith(
  context: Context,
  facts: Facts,
  stored: StoredBoard,
  card: StoredCard,
): Promise<{ outcome: CardOutcome; board: StoredBoard; file: StoredCard['files'][number] | undefined }> {
  const {
    outcome,
    state,
    card: left,
  } = powerOnWithCard(
    await loadState(context, stored),
    await loadCard(context, card),
    facts.board,
    facts.chip,
  );
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

/** Nothing is overwritten that could not be brought back, unless somebody said in words why. */
async function refuseWithoutWayBack(context: Context, machineId: string, stored: StoredBoard): Promise<void> {
  const [stop] = await wayBackStops(context, machineId, stored);
  if (stop)
    throw new ApiError(
      409,
      'no-way-back',
      `${stop.what} Keep the present image in Survey, or say there in your own words why not.`,
      {
        findings: [stop],
      },
    );
}

/** The machine whose board is replaced: as it was when the open job began, else as it is. */
export async function factsToKeep(context: Context, machineId: string): Promise<Facts> {
  const { machine } = await machineOr404(context, machineId);
  const job = await openJob(context.db, machineId);
  const resolved = job && resolve(job.job.before, context.catalogue);
  return resolved && 'facts' in resolved ? resolved.facts : factsOr422(context, machine);
}

/** `keep.no-way-back`, unless the flash holds an image that is in the store anyway. */
export async function wayBackStops(
  context: Context,
  machineId: string,
  stored: StoredBoard,
): Promise<Finding[]> {
  if (stored.imageHash && (await findImage(context.db, stored.imageHash))) return [];
  const waivers = await listWaivers(context.db, machineId);
  const waived = waivers.find((waiver) => waiver.check === 'keep.no-way-back');
  const { board } = await factsToKeep(context, machineId);
  return wayBackFindings(board, await listKept(context.db, machineId), waived?.because);
}

/** Writes a kept image back by programmer, reads it back, and records the attempt. */
export async function restore(
  context: Context,
  machineId: string,
  keptId: number,
): Promise<{ outcome: CardOutcome; board: StoredBoard }> {
  const facts = factsOr422(context, (await machineOr404(context, machineId)).machine);
  const kept = await findKept(context.db, machineId, keptId);
  if (!kept || kept.kind !== 'image' || kept.verdict === 'empty')
    throw notFound('kept image', String(keptId));
  if (kept.board.id !== facts.board.id || kept.board.revision !== facts.board.revision)
    throw new ApiError(
      409,
      'other-board',
      `${kept.name} was kept from ${kept.board.id} rev ${kept.board.revision}; the board here is ${facts.board.id} rev ${facts.board.revision}`,
    );
  const { board: type, chip } = facts;
  const file = await context.reading.read('flash', {
    bytes: await imageBytes(context, kept.hash),
    board: type,
    chip,
  });
  if ('problem' in file) throw new ApiError(422, 'bad-file', file.problem);
  const { bytes, header } = file;
  const imageHash = hashOf(bytes);
  await context.images.put(imageHash, bytes);
  const outcome: CardOutcome = { taken: true, name: kept.name };
  return context.db.transaction(async (inside) => {
    const before = await boardOf({ ...context, db: inside }, facts);
    const written = writeByProgrammer(await loadState(context, before), bytes, chip);
    if ('refused' in written) throw new ApiError(422, 'too-large', written.refused);
    const board = { ...before, imageHash };
    await addImage(inside, { hash: imageHash, bytes: bytes.length, ...(header && { header }) });
    await saveBoard(inside, keyOf(facts), board);
    await addFlash(inside, machineId, {
      id: randomUUID(), imageHash, route: 'programmer', fileName: kept.name, at: context.now(), outcome,
    }); // prettier-ignore
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'flash',
      summary: `Restored ${kept.name} by programmer, ${bytes.length} bytes, read back the same`,
      detail: { imageHash, outcome },
    });
    return { outcome, board };
  });
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

export async function loadState(context: Context, stored: StoredBoard): Promise<BoardState> {
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
