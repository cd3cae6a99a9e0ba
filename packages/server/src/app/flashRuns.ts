import { boardCalled } from '@jolly/core/catalogue/catalogue';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { randomUUID } from 'node:crypto';
import { setImmediate, setTimeout } from 'node:timers/promises';
import {
  around,
  bootloaderOf,
  type FlashJob,
  flashing,
  flashMemory,
  type FlashProgress,
  hasBootloader,
  type Table,
} from '@jolly/bench';
import type { FlashOrder, FlashRun, StoredBoard } from '@jolly/contract/endpoints/board';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { isWired } from '@jolly/core/board/route';
import { sameBoardType } from '@jolly/core/machine/same';
import { boardInRecord } from '@jolly/core/flash/bootloaderKnown';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { by } from '@jolly/core/flash/routeWords';
import { type ImageHeader, readImage } from '@jolly/core/image/imageHeader';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { saveBoard } from '../sql/boards';
import { addEntry } from '../sql/entries';
import { addFlash } from '../sql/flashes';
import { addImage, findImage } from '../sql/images';
import { findKept } from '../sql/kept';
import { backgroundRuns, type BackgroundRuns, type RunTools } from './backgroundRuns';
import { boardOf, imageBytes, keyOf, loadState, storedAs } from './board';
import { theFacts, theMachine } from './known';
import { refuseWithoutWayBack } from './wayBack';

export interface FlashRuns extends Pick<BackgroundRuns<FlashRun>, 'follow' | 'interrupt' | 'isRunning'> {
  start(machineId: string, order: FlashOrder): Promise<FlashRun>;
  stands(machineId: string): Promise<FlashRun>;
  /** @throws {Refusal} not-running */
  break(machineId: string, by: Broken): Promise<FlashRun>;
}
type Broken = 'cancelled' | 'power lost';

/** What shall be written, and what is known of it. */
interface Ordered {
  order: FlashOrder;
  facts: Facts;
  job: FlashJob;
  header?: ImageHeader | undefined;
}

/** Writing by a tool over a wire, one job for each machine at a time. */
export function createFlashRuns(context: Context): FlashRuns {
  const runs = backgroundRuns<FlashRun>();
  const last = new Map<string, FlashRun>();
  const brokenBy = new Map<string, Broken>();

  async function run(id: string, ordered: Ordered, tools: RunTools): Promise<FlashRun> {
    const { route, does } = ordered.order;
    const outcome = await carryOut(context, id, ordered, { ...tools, brokenBy: () => brokenBy.get(id) ?? 'cancelled' })
      .catch((error: unknown): CardOutcome => {
        console.error(error);
        return { taken: false, reason: 'cancelled', because: 'the tool ended by a fault of its own; nothing of it was stored' };
      });
    const ended: FlashRun = { state: 'ended', board: boardInRecord(ordered.facts.machine), route, does, outcome };
    last.set(id, ended);
    return ended;
  }
  /** What came of another board than the one the machine has now is nothing of this one. */
  async function stands(id: string): Promise<FlashRun> {
    const run = last.get(id);
    if (!run) return { state: 'none' };
    if (run.state === 'running') return run;
    return run.board === boardInRecord((await theMachine(context, id)).machine) ? run : { state: 'none' };
  }

  return {
    isRunning: (id) => runs.isRunning(id),
    follow: (id, listen) => runs.follow(id, listen),
    interrupt: () => runs.interrupt(),
    stands,
    async start(id, order) {
      if (runs.isEnding()) throw new Refusal('ending', 'the server is about to end');
      const ordered = await ordering(context, id, order);
      if (runs.isRunning(id)) throw new Refusal('busy', 'a tool is at this board already');
      brokenBy.delete(id);
      last.set(id, { state: 'running', board: boardInRecord(ordered.facts.machine), route: order.route, does: order.does });
      runs.begin(id, (tools) => run(id, ordered, tools));
      return stands(id);
    },
    async break(id, broken) {
      brokenBy.set(id, broken);
      await runs.cancel(id);
      return stands(id);
    },
  };
} // prettier-ignore

/** Reading a file takes a thread and time, and is done before anything is touched. */
async function ordering(context: Context, id: string, order: FlashOrder): Promise<Ordered> {
  const facts = await theFacts(context, id);
  const route = facts.board.routes.find(({ kind }) => kind === order.route);
  if (!route)
    throw new Refusal('impossible', `${facts.board.name} has no route ${by({ kind: order.route })} as this machine is set up`); // prettier-ignore
  if (order.does !== 'try') await refuseWithoutWayBack(context, id, await boardOf(context, facts));
  if (order.does === 'write') {
    const { name, bytes } = await ordered(context, id, facts, order);
    const file = await context.reading.read('flash', { bytes, board: facts.board, chip: facts.chip });
    if ('problem' in file) throw new Refusal('bad-file', file.problem);
    const job: FlashJob = { route, does: 'write', name, bytes: file.bytes, at: route.load_address };
    return { order, facts, job, header: file.header };
  }
  const { board } = asSold(facts);
  if (order.does === 'bootloader' && !isWired(route))
    throw new Refusal('impossible', 'a bootloader is installed by wires: it cannot be written by itself');
  const bytes = order.does === 'bootloader' ? bootloaderOf(board) : new Uint8Array(0);
  const name = order.does === 'bootloader' ? `the bootloader of ${board.name}` : 'nothing';
  return { order, facts, job: { route, does: order.does, name, bytes, at: order.does === 'bootloader' ? 0 : route.load_address } }; // prettier-ignore
}

async function ordered(
  context: Context,
  id: string,
  { board, catalogue }: Facts,
  { image }: FlashOrder,
): Promise<{ name: string; bytes: Uint8Array }> {
  if (!image) throw new Refusal('no-image', 'it was not said which image to write');
  if ('hash' in image) {
    if (!(await findImage(context.db, image.hash))) throw notFound('image', image.hash);
    return { name: image.name, bytes: await imageBytes(context, image.hash) };
  }
  const kept = await findKept(context.db, id, image.kept);
  if (!kept || kept.kind !== 'image' || kept.verdict === 'empty')
    throw notFound('kept image', String(image.kept));
  if (!sameBoardType(kept.board, board))
    throw new Refusal('other-board', `${kept.name} was kept from ${boardCalled(catalogue, kept.board)}; the board here is ${boardCalled(catalogue, board)}`); // prettier-ignore
  return { name: kept.name, bytes: await imageBytes(context, kept.hash) };
}

type Tools = RunTools & { brokenBy: () => Broken };

async function carryOut(context: Context, id: string, ordered: Ordered, tools: Tools): Promise<CardOutcome> {
  const { facts, order } = ordered;
  const sold = asSold(facts);
  const before = await loadState(context, await boardOf(context, facts));
  const lies = { state: before, card: { format: 'FAT32' as const, sizeGb: 1, files: [ordered.job] } };
  const at = around(facts, order.laid, lies);
  // A fault may have made another image of it.
  const job = { ...ordered.job, bytes: at.card.files[0]?.bytes ?? ordered.job.bytes };
  const memory = flashMemory(at.state, sold);
  const { route } = job;
  const table: Table = {
    sold,
    loader: ('in_rom' in route && route.in_rom === true) || hasBootloader(at.state, sold.board),
    portHeld: at.portHeld,
    toolFails: at.toolFails,
    wiresExchanged: at.wiresExchanged,
    hostBaud: at.hostBaud,
  };
  const outcome = await paced(flashing(job, memory, table), order.pace, tools, () => memory.written());
  const state = memory.left(job);
  await transact(context, async (within) => {
    // What the settings' store and the slot hold may have changed meanwhile; the flash is the tool's.
    const now = await boardOf(within, facts);
    const wiped = state.store !== at.state.store || at.state.store !== before.store;
    const board = await storing(within, now, wiped ? state : { ...state, store: (await loadState(within, now)).store });
    await saveBoard(within.db, keyOf(facts), board);
    await record(within, id, { ...ordered, job }, outcome);
  });
  return outcome;
} // prettier-ignore

/** How often others get their turn while a tool works, in ms. */
const SLICE_MS = 8;

/** Runs a tool at the machine's own time or faster, and leaves it where it is broken off. */
async function paced(
  going: Generator<FlashProgress, CardOutcome>,
  pace: number,
  { signal, progress, brokenBy }: Tools,
  written: () => number,
): Promise<CardOutcome> {
  const began = performance.now();
  let sliceAt = began;
  let told = '';
  for (let step = going.next(); ; step = going.next()) {
    if (step.done) return step.value;
    const { phase, done, total, atS } = step.value;
    const share = `${phase} ${Math.floor((50 * done) / total)}`;
    if (share !== told) progress({ doing: phase, done, total });
    told = share;
    const ahead = pace === 0 ? 0 : (1000 * atS) / pace - (performance.now() - began);
    if (ahead > SLICE_MS) await setTimeout(ahead, undefined, { signal }).catch(() => undefined);
    else if (performance.now() - sliceAt > SLICE_MS) {
      await setImmediate();
      sliceAt = performance.now();
    }
    if (!signal.aborted) continue;
    const reason = brokenBy();
    const because = reason === 'power lost' ? `the power went while it was ${phase}` : `it was broken off while it was ${phase}`;
    return { taken: false, reason, because, ...(written() > 0 || phase !== 'calling' ? { partly: true as const } : {}) };
  }
} // prettier-ignore

async function storing(within: Within, now: StoredBoard, state: Parameters<typeof storedAs>[1]): Promise<StoredBoard> {
  if (!state.image) return storedAs(now, state, null);
  const hash = hashOf(state.image);
  await within.images.put(hash, state.image);
  const read = readImage(state.image);
  await addImage(within.db, { hash, bytes: state.image.length, ...('header' in read && { header: read.header }) });
  return storedAs(now, state, hash);
} // prettier-ignore

const DID: Record<FlashOrder['does'], (ordered: Ordered, outcome: CardOutcome) => string> = {
  try: ({ job }, outcome) =>
    outcome.taken
      ? `Called the board ${by(job.route)}: it answers`
      : `Called the board ${by(job.route)}: ${outcome.because}`,
  write: ({ job, header }, outcome) =>
    outcome.taken
      ? `Flashed ${header ? `${header.name}, build ${header.buildId},` : 'a foreign image'} ${by(job.route)} from ${job.name}, ${bytesInWords(job.bytes.length)}${outcome.toolSaid ? `; ${outcome.toolSaid}` : ''}`
      : `Flash ${by(job.route)} failed: ${outcome.because}`,
  bootloader: ({ job }, outcome) =>
    outcome.taken
      ? `Installed ${job.name} ${by(job.route)}`
      : `Installing ${job.name} ${by(job.route)} failed: ${outcome.because}`,
};

async function record(
  { db, now }: Within,
  id: string,
  ordered: Ordered,
  outcome: CardOutcome,
): Promise<void> {
  const { job, order, facts } = ordered;
  const hash = order.does === 'write' ? hashOf(job.bytes) : undefined;
  const known = hash !== undefined && (await findImage(db, hash)) !== undefined;
  await addFlash(db, id, {
    id: randomUUID(),
    imageHash: known ? hash : null,
    route: order.route,
    does: order.does,
    board: boardInRecord(facts.machine),
    fromStart: order.does === 'write' && job.at === 0 && asSold(facts).board.routes[0].load_address > 0,
    fileName: job.name,
    at: now(),
    outcome,
  });
  await addEntry(db, id, {
    at: now(),
    kind: 'flash',
    summary: DID[order.does](ordered, outcome),
    detail: { ...(known && outcome.taken && { imageHash: hash }), outcome },
  });
}
