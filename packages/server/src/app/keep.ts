import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { readOut } from '@jolly/bench';
import type { KeepAnswer, Kept } from '@jolly/contract/endpoints/kept';
import { Refusal } from '@jolly/contract/refusal';
import { READABLE } from '@jolly/core/board/chip';
import type { KeptKind } from '@jolly/core/image/wayBack';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { boardInWords, sameBoard } from '@jolly/core/machine/same';
import { type Context, transact } from '../context';
import { hashOf } from '../files/byteStore';
import type { Judged } from '../reading/readers';
import { addEntry } from '../sql/entries';
import { addKept, listKept } from '../sql/kept';
import { boardOf, loadState } from './board';
import { theFacts } from './known';
import { benchFacts, factsToKeep } from './wayBack';

/** Something handed over to be kept. */
export interface ToKeep {
  kind: KeptKind;
  name: string;
  bytes: Uint8Array;
  source: Kept['source'];
}
/**
 * Judges a file and keeps it as what the board that is to be replaced had. What came over the link is of the board that
 * runs, which is that of the machine file.
 * @throws {Refusal} bad-file, other-board for the answer of another board than the one to be replaced
 */
export async function keepFile(context: Context, machineId: string, thing: ToKeep): Promise<KeepAnswer> {
  const wanted = await factsToKeep(context, machineId);
  const runs = await theFacts(context, machineId);
  if (thing.source === 'link' && !sameBoard(runs.machine, wanted.machine))
    throw new Refusal(
      'other-board',
      `what runs is ${boardInWords(runs)}; this is kept of ${boardInWords(wanted)}, which is not there any more`,
    );
  return keep(context, machineId, wanted, thing);
}

/**
 * Judges and keeps one thing of a board. Judging takes a thread and time, and bytes are stored before the record that
 * names them, so that nothing is half kept.
 */
export async function keep(
  context: Context,
  machineId: string,
  facts: Facts,
  thing: ToKeep,
): Promise<KeepAnswer> {
  const judged = await judge(context, thing, facts);
  const hash = hashOf(thing.bytes);
  const { id, revision, copy } = facts.machine.board;
  const board = { id, revision, ...(copy !== undefined && { copy }) };
  await context.images.put(hash, thing.bytes);
  const { kind, name, source } = thing;
  return transact(context, async ({ db, now }) => {
    const same = (entry: Kept) => entry.hash === hash && entry.kind === kind && sameBoard(entry, { board });
    const before = (await listKept(db, machineId)).find(same);
    if (before) return { kept: before, already: true };
    const kept = await addKept(db, machineId, {
      kind, name, board, hash, bytes: thing.bytes.length, source, ...judged, at: now(),
    }); // prettier-ignore
    await addEntry(db, machineId, {
      at: now(),
      kind: 'kept',
      summary: `Kept ${WORD[kind]} of ${boardInWords(facts)}: ${name}, ${bytesInWords(thing.bytes.length)}`,
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
  if ('problem' in judged) throw new Refusal('bad-file', judged.problem);
  // An erased flash that was read out says that there is nothing to lose; an erased file says nothing.
  if (kind === 'image' && judged.verdict === 'empty' && source === 'file')
    throw new Refusal(
      'bad-file',
      'every byte is 0xFF: this is an erased flash, not an image that could bring anything back',
    );
  return judged;
}

/** Reads everything out of the virtual board that its chip gives, and keeps it. Refused when another board lies there. */
export async function keepFromBoard(context: Context, machineId: string): Promise<KeepAnswer[]> {
  const { lies: facts, wanted } = await benchFacts(context, machineId);
  if (!sameBoard(facts.machine, wanted.machine))
    throw new Refusal(
      'other-board',
      `on the bench lies ${boardInWords(facts)}; a way back is wanted of ${boardInWords(wanted)}, which is not there. Read that one out with its programmer and keep the file`,
    );
  const state = await loadState(context, await boardOf(context, facts));
  const sold = asSold(facts);
  const answers: KeepAnswer[] = [];
  for (const kind of READABLE) {
    const bytes = readOut(state, sold.board, sold.chip, kind);
    if (!bytes || bytes.length === 0) continue;
    const name = `${facts.machine.id}-${facts.board.id}-${kind}.bin`;
    answers.push(await keep(context, machineId, facts, { kind, name, bytes, source: 'board' }));
  }
  return answers;
}
