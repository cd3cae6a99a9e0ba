import type { Facts } from '@jolly/core/machine/facts';
import type { KeptKind } from '@jolly/core/image/wayBack';
import { READABLE } from '@jolly/core/board/chip';
import { readOut } from '@jolly/bench';
import { ApiError } from '../api/apiError';
import { boardOf, factsToKeep, keyOf, loadState } from '../board/virtualBoard';
import { type Context, factsOr422, machineOr404 } from '../context';
import { hashOf } from '../files/byteStore';
import type { Judged } from '../reading/readers';
import { addEntry } from '../sql/entries';
import { findBoard } from '../sql/boards';
import { addKept, type Kept, listKept } from '../sql/kept';

/** Something handed over to be kept. */
export interface ToKeep {
  kind: KeptKind;
  name: string;
  bytes: Uint8Array;
  source: Kept['source'];
}
export interface KeepAnswer {
  kept: Kept;
  /** It was kept before; nothing was stored twice. */
  already: boolean;
}

/** Judges and keeps one thing. Bytes are stored before the record that names them, so that nothing is half kept. */
export async function keep(
  context: Context,
  machineId: string,
  facts: Facts,
  thing: ToKeep,
): Promise<KeepAnswer> {
  const judged = await judge(context, thing, facts);
  const hash = hashOf(thing.bytes);
  const board = { id: facts.board.id, revision: facts.board.revision };
  await context.images.put(hash, thing.bytes);
  const { kind, name, source } = thing;
  return context.db.transaction(async (inside) => {
    const kept = await addKept(inside, machineId, {
      kind, name, board, hash, bytes: thing.bytes.length, source, ...judged, at: context.now(),
    }); // prettier-ignore
    if (!kept) {
      const before = (await listKept(inside, machineId)).find(
        (entry) => entry.hash === hash && entry.kind === kind && entry.board.id === board.id,
      );
      return { kept: before!, already: true };
    }
    await addEntry(inside, machineId, {
      at: context.now(),
      kind: 'kept',
      summary: `Kept ${WORD[kind]} of ${facts.board.name} rev ${facts.board.revision}: ${name}, ${thing.bytes.length} bytes`,
      detail: { evidence: judged.evidence },
    });
    return { kept, already: false };
  });
}

const WORD: Record<KeptKind, string> = {
  image: 'the image',
  bootloader: 'the bootloader',
  options: 'the lock words',
  store: 'the stored settings',
  dump: 'the settings report',
};

async function judge(
  context: Context,
  { kind, bytes, source }: ToKeep,
  { board, chip }: Facts,
): Promise<Judged> {
  const judged =
    kind === 'dump'
      ? await context.reading.read('dump', { bytes, dialects: context.catalogue.dialects })
      : await context.reading.read('image', { kind, bytes, board, chip });
  if ('problem' in judged) throw new ApiError(422, 'bad-file', judged.problem);
  // An erased flash that was read out says that there is nothing to lose; an erased file says nothing.
  if (kind === 'image' && judged.verdict === 'empty' && source === 'file')
    throw new ApiError(
      422,
      'bad-file',
      'every byte is 0xFF: this is an erased flash, not an image that could bring anything back',
    );
  return judged;
}

/** Which board lies on the bench, and whether it is the one to be replaced. */
export interface OnBench {
  board: string;
  /** The board a way back is wanted of. */
  wanted: string;
  /** The board on the bench is the wanted one, so that reading it out makes sense. */
  isWanted: boolean;
}

const named = ({ board }: Facts) => `${board.name} rev ${board.revision}`;
const sameBoard = (a: Facts, b: Facts) => a.board.id === b.board.id && a.board.revision === b.board.revision;

/** The facts of the board on the bench: the one to be replaced while it is there, else the one of the machine file. */
async function benchFacts(context: Context, machineId: string): Promise<{ lies: Facts; wanted: Facts }> {
  const now = factsOr422(context, (await machineOr404(context, machineId)).machine);
  const wanted = await factsToKeep(context, machineId);
  const old = await findBoard(context.db, keyOf(wanted));
  return { lies: old ? wanted : now, wanted };
}

export async function onBench(context: Context, machineId: string): Promise<OnBench> {
  const { lies, wanted } = await benchFacts(context, machineId);
  return { board: named(lies), wanted: named(wanted), isWanted: sameBoard(lies, wanted) };
}

/** Reads everything out of the virtual board that its chip gives, and keeps it. Refused when another board lies there. */
export async function keepFromBoard(context: Context, machineId: string): Promise<KeepAnswer[]> {
  const { lies: facts, wanted } = await benchFacts(context, machineId);
  if (!sameBoard(facts, wanted))
    throw new ApiError(
      409,
      'other-board',
      `on the bench lies ${named(facts)}; a way back is wanted of ${named(wanted)}, which is not there. Read that one out with its programmer and keep the file`,
    );
  const state = await loadState(context, await boardOf(context, facts));
  const answers: KeepAnswer[] = [];
  for (const kind of READABLE) {
    const bytes = readOut(state, facts.board, facts.chip, kind);
    if (!bytes || bytes.length === 0) continue;
    const name = `${facts.machine.id}-${facts.board.id}-${kind}.bin`;
    answers.push(await keep(context, machineId, facts, { kind, name, bytes, source: 'board' }));
  }
  return answers;
}
