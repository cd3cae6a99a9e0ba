import type { OwnTypes, StoredBegunBoard } from '@jolly/contract/endpoints/boardTypes';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { BegunBoard } from '@jolly/core/board/begunBoard';
import type { Board } from '@jolly/core/board/board';
import { NEW_BOARD } from '@jolly/core/board/boardDraft';
import { boardBy } from '@jolly/core/catalogue/catalogue';
import { writeBoardFile, writeBoardRevision } from '@jolly/core/formats/boardFile';
import { freeId } from '@jolly/core/machine/freeId';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { redrawPhoto } from '../files/redrawPhoto';
import { describedBoards, photoOfBegunBoard } from '../sql/begunBoards';
import { listMachines } from '../sql/machines';
import { hashInUse } from '../sql/photos';
import { addBoardType, boardType } from './boardTypes';

/** More than anybody describes at a time. */
const MOST_BEGUN = 20;

export type Beginning =
  { from: 'nothing' } | { from: 'copy' | 'revision' | 'own'; id: string; revision: string };

/** Begins to describe a board: from nothing, as a copy, as a further revision, or one's own once more. */
export function beginBoard(context: Context, beginning: Beginning): Promise<StoredBegunBoard> {
  const begun = beginsAs(context, beginning);
  return transact(context, async (within) => {
    const there = await describedBoards.list(within.db);
    if (there.length >= MOST_BEGUN)
      throw new Refusal('too-many', `${MOST_BEGUN} boards are being described; finish one or throw it away`);
    const id = freeId('board', new Set(there.map((entry) => entry.id)));
    return describedBoards.add(within.db, id, begun, context.now());
  });
}

function beginsAs(context: Context, beginning: Beginning): BegunBoard {
  if (beginning.from === 'nothing') return { jolly: 'begun-board/1', board: NEW_BOARD };
  const board = boardType(context, beginning.id, beginning.revision);
  if (beginning.from === 'own') return { jolly: 'begun-board/1', board, keepsId: true };
  // A fault of the one is a caution for the other, and no more until somebody has seen it there; what is printed, and what
  // tells revisions apart, is looked at anew.
  const faults = board.faults?.map((fault) => ({ ...fault, sure: 'suspected' as const }));
  const { revision: like, print: _print, ...rest } = { ...board, tells: [], ...(faults && { faults }) };
  if (beginning.from === 'revision') return { jolly: 'begun-board/1', board: rest, like, keepsId: true };
  const { id: _id, name: _name, ...unnamed } = rest;
  return { jolly: 'begun-board/1', board: unnamed };
}

/** A board that is being described. @throws {Refusal} not-found */
export async function theBegunBoard({ db }: Within, id: string): Promise<StoredBegunBoard> {
  const stored = await describedBoards.find(db, id);
  if (!stored) throw notFound('board being described', id);
  return stored;
}

/** Keeps what was said of it so far. @throws {Refusal} stale for an old version */
export function saveBoard(
  context: Context,
  id: string,
  { version, begun }: { version: number; begun: BegunBoard },
): Promise<StoredBegunBoard> {
  return transact(context, async (within) => {
    await theBegunBoard(within, id);
    const stored = await describedBoards.save(within.db, id, begun, version, context.now());
    if (!stored) throw new Refusal('stale', 'this board was changed in another window since you opened it');
    return stored;
  });
}

/** Throws a begun board away, and its photo with it. */
export async function throwBoardAway(context: Context, id: string): Promise<void> {
  const { begun } = await transact(context, async (within) => {
    const stored = await theBegunBoard(within, id);
    await describedBoards.drop(within.db, id);
    return stored;
  });
  await dropPhoto(context, begun);
}

async function dropPhoto(context: Context, { photo }: BegunBoard): Promise<void> {
  if (!photo || (await photoOfBegunBoard(context.db, photo.hash))) return;
  const { photo: ofMachine, other } = await hashInUse(context.db, photo.hash);
  if (!ofMachine && !other) await context.photos.drop(photo.hash);
}

/** Keeps the photo a board is drawn over, drawn anew; one that was there before is dropped. */
export async function keepBoardPhoto(
  context: Context,
  id: string,
  bytes: Uint8Array,
): Promise<StoredBegunBoard> {
  const before = await theBegunBoard(context, id);
  const photo = await redrawPhoto(bytes);
  if ('problem' in photo) throw new Refusal('bad-file', photo.problem);
  const hash = hashOf(photo.bytes);
  await context.photos.put(hash, photo.bytes);
  const { type, width, height } = photo;
  const begun = { ...before.begun, photo: { hash, type, width, height, corners: [] } };
  const stored = await saveBoard(context, id, { version: before.version, begun });
  await dropPhoto(context, before.begun);
  return stored;
}

/** The photo of a begun board. @throws {Refusal} not-found */
export async function boardPhoto(context: Context, id: string): Promise<{ type: string; bytes: Uint8Array }> {
  const { begun } = await theBegunBoard(context, id);
  const bytes = begun.photo && (await context.photos.get(begun.photo.hash));
  if (!begun.photo || !bytes) throw notFound('photo of this board', id);
  return { type: begun.photo.type, bytes };
}

/** The file of a begun board, as far as it goes; a further revision by what differs. */
export function fileOf({ catalogue }: Pick<Context, 'catalogue'>, { board, like }: BegunBoard): string {
  const sister = like === undefined || board.id === undefined ? undefined : boardBy(catalogue, { id: board.id, revision: like }); // prettier-ignore
  return sister ? writeBoardRevision(board, sister) : writeBoardFile(board);
}

/** Makes a board type of what was described; the description is done with. @throws {Refusal} bad-file, id-taken */
export async function finishBoard(context: Context, id: string): Promise<Board> {
  const { begun } = await theBegunBoard(context, id);
  const board = await addBoardType(context, fileOf(context, begun));
  await throwBoardAway(context, id);
  return board;
}

/** Boards, parts and chips that were added here, with the machines that use each. */
export async function ownTypes(context: Context): Promise<OwnTypes> {
  const machines = (await listMachines(context.db)).map(({ machine }) => machine);
  const namesOf = (uses: (machine: (typeof machines)[number]) => boolean) =>
    machines.filter(uses).map(({ name }) => name);
  const { boards, parts, chips } = context.catalogue;
  return {
    boards: boards
      .filter(({ id, revision }) => context.ownBoards.has(`${id} ${revision}`))
      .map(({ id, revision, name }) => ({ id, revision, name, usedBy: namesOf(({ board }) => board.id === id && board.revision === revision) })),
    parts: parts
      .filter(({ id }) => context.ownParts.has(id))
      .map(({ id, name, kind }) => ({ id, name, kind, usedBy: namesOf((machine) => machine.parts.some(({ part }) => part === id)) })),
    chips: chips
      .filter(({ id }) => context.ownChips.has(id))
      .map(({ id, name }) => ({ id, name, usedBy: boards.filter((board) => board.chip === id).map((board) => `${board.name} rev ${board.revision}`) })),
  }; // prettier-ignore
}
