import type { StoredBoard } from '@jolly/contract/endpoints/board';
import type { Kept, OnBench, Waiver, WayBack } from '@jolly/contract/endpoints/kept';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Finding } from '@jolly/core/finding/finding';
import { wayBackFindings } from '@jolly/core/image/wayBack';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { boardInWords, sameBoard } from '@jolly/core/machine/same';
import { type Context, transact, type Within } from '../context';
import { listDrawer } from '../files/drawer';
import { findBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { findImage } from '../sql/images';
import { openJob } from '../sql/jobs';
import { findKept, listKept } from '../sql/kept';
import { listWaivers, putWaiver } from '../sql/waivers';
import { boardOf, keyOf } from './board';
import { factsOf, theFacts, theMachine } from './known';

/** The machine whose board is replaced: as it was when the open job began, else as it is. */
export async function factsToKeep(context: Within, id: string): Promise<Facts> {
  const { machine } = await theMachine(context, id);
  const job = await openJob(context.db, id);
  const resolved = job && resolve(job.job.before, context.catalogue);
  return resolved && 'facts' in resolved ? resolved.facts : factsOf(context, machine);
}

/** The facts of the board on the bench: the one to be replaced while it is there, else the one of the machine file. */
export async function benchFacts(context: Within, id: string): Promise<{ lies: Facts; wanted: Facts }> {
  const now = await theFacts(context, id);
  const wanted = await factsToKeep(context, id);
  const old = await findBoard(context.db, keyOf(wanted));
  return { lies: old ? wanted : now, wanted };
}

async function onBench(context: Within, id: string): Promise<OnBench> {
  const { lies, wanted } = await benchFacts(context, id);
  return {
    board: boardInWords(lies),
    wanted: boardInWords(wanted),
    isWanted: sameBoard(lies.machine, wanted.machine),
  };
}

/** The way back: what is kept, what stops a flash, and what was waived. */
export async function wayBack(context: Within, id: string): Promise<WayBack> {
  const board = await boardOf(context, await theFacts(context, id));
  return {
    kept: await listKept(context.db, id),
    bench: await onBench(context, id),
    findings: await wayBackStops(context, id, board),
    waivers: await listWaivers(context.db, id),
    drawer: await listDrawer(context, id),
  };
}

/** `keep.no-way-back`, unless the flash holds an image that is in the store anyway. */
async function wayBackStops(context: Within, id: string, stored: StoredBoard): Promise<Finding[]> {
  if (stored.imageHash && (await findImage(context.db, stored.imageHash))) return [];
  const waivers = await listWaivers(context.db, id);
  const waived = waivers.find((waiver) => waiver.check === 'keep.no-way-back');
  const { board, catalogue } = await factsToKeep(context, id);
  return wayBackFindings(board, {
    kept: await listKept(context.db, id),
    waived: waived?.because,
    catalogue,
  });
}

/** Nothing is overwritten that could not be brought back, unless somebody said in words why. */
export async function refuseWithoutWayBack(context: Within, id: string, stored: StoredBoard): Promise<void> {
  const [stop] = await wayBackStops(context, id, stored);
  if (!stop) return;
  const mend = 'Keep the present image in Survey, or say there in your own words why not.';
  throw new Refusal('no-way-back', `${stop.what} ${mend}`, { findings: [stop] });
}

/** Sets the want of a way back aside, in words. */
export function waive(context: Context, id: string, check: string, because: string): Promise<Waiver[]> {
  return transact(context, async (within) => {
    await theMachine(within, id);
    await putWaiver(within.db, id, check, because, context.now());
    await addEntry(within.db, id, {
      at: context.now(),
      kind: 'kept',
      summary: `Goes on without a way back: ${because}`,
    });
    return listWaivers(within.db, id);
  });
}

/** Something kept. @throws {Refusal} not-found */
export async function keptThing({ db }: Within, id: string, number: number): Promise<Kept> {
  const kept = await findKept(db, id, number);
  if (!kept) throw notFound('kept thing', String(number));
  return kept;
}
