import type { BoardAndChip } from '@jolly/core/board/withoutBootloader';
import type { FlashRoute, RouteKind } from '@jolly/core/board/route';
import { fromBase64, toBase64 } from '@jolly/core/bytes/base64';
import { inWholeBlocks, toUf2 } from '@jolly/core/bytes/uf2';
import type { CardOutcome, ToolRefusal } from '@jolly/core/flash/cardOutcome';
import { certain } from '@jolly/core/tree/certain';
import { sameBytes } from '../board/bootloader';
import { driveListener, GONE, SECTOR } from './driveTalk';
import type { FlashMemory } from './flashMemory';
import { probeDialog, probeListener } from './probeTalk';
import { serialDialog, serialListener } from './serialTalk';
import { type Dialog, type Listener, nobody, type Phase, type Talk } from './talk';
import { updateDialog, updateListener } from './updateClassTalk';
import { wireDialog, wireListener } from './wireTalk';

/** What a tool shall do by a route. */
export interface FlashJob {
  route: FlashRoute;
  does: 'try' | 'write' | 'bootloader';
  name: string;
  bytes: Uint8Array;
  /** Where they go, counted from the first byte of the flash. */
  at: number;
}
/** The table around it. */
export interface Table {
  sold: BoardAndChip;
  /** A loader answers: it is in ROM, or the bootloader is there. */
  loader: boolean;
  portHeld: boolean;
  toolFails: boolean;
  wiresExchanged: boolean;
  /** The speed the tool talks at, where it is not the bootloader's. */
  hostBaud?: number | undefined;
}
export interface FlashProgress {
  phase: Phase;
  done: number;
  total: number;
  /** Time of the machine since it began, in s. */
  atS: number;
}

/** Seconds for a byte on the wire; a serial line says its own speed. */
const BYTE_S: Readonly<Record<Exclude<RouteKind, 'serial'>, number>> = {
  card: 0,
  'card-over-usb': 0,
  host: 0,
  programmer: 8e-6,
  probe: 2e-6,
  drive: 1e-6,
  'update-class': 1e-6,
};
const SILENT_MS = 500;

/**
 * Carries out a job over a wire, byte by byte: what the tool sends is heard by the chip's end, and what that answers comes
 * back, or nothing does in time. Told at every exchange; leaving it in the middle leaves the memory as it then is.
 */
export function* flashing(job: FlashJob, memory: FlashMemory, table: Table): Generator<FlashProgress, CardOutcome> {
  if (job.route.kind === 'serial' && table.portHeld)
    return refused('port held', 'another program holds the port: close it, and try again');
  const listener = listenerOf(job, memory, table);
  const byteS = job.route.kind === 'serial' ? 10 / job.route.baud : BYTE_S[job.route.kind];
  const told: Told = { phase: 'calling', done: 0, total: 1 };
  const talk = job.route.kind === 'drive' ? copying(job, table, told) : toolTalk(job, memory, table, told);
  let atS = 0;
  let next = talk.next();
  while (!next.done) {
    const { send, want, waitMs = SILENT_MS, busyMs = 0 } = next.value;
    const heard: number[] = [];
    for (const byte of send) for (const answer of listener.hear(byte)) heard.push(answer);
    atS += (send.length + heard.length) * byteS + busyMs / 1000;
    if (want > 0 && heard.length === 0) atS += waitMs / 1000;
    yield { ...told, atS };
    next = talk.next(want > 0 && heard.length === 0 ? undefined : Uint8Array.from(heard));
  }
  return table.toolFails && next.value.taken
    ? { ...next.value, toolSaid: 'the tool reports that writing failed' }
    : next.value;
} // prettier-ignore

const refused = (reason: ToolRefusal, because: string): CardOutcome => ({ taken: false, reason, because });

/** Who is at the other end of the wire. */
function listenerOf({ route }: FlashJob, memory: FlashMemory, { sold, loader, wiresExchanged, hostBaud }: Table): Listener {
  switch (route.kind) {
    case 'serial':
      return loader && (hostBaud === undefined || hostBaud === route.baud) ? serialListener(memory) : nobody;
    case 'programmer':
      return wiresExchanged ? nobody : wireListener(memory);
    case 'probe':
      return wiresExchanged ? nobody : probeListener(memory);
    case 'drive':
      return loader ? driveListener(memory, sold.chip.flash_at, sold.chip.uf2_family) : nobody;
    case 'update-class':
      return loader ? updateListener(memory) : nobody;
    default:
      return nobody;
  }
} // prettier-ignore

function dialogOf({ route, at }: FlashJob, { pageBytes }: FlashMemory): Dialog {
  switch (route.kind) {
    case 'serial':
      return serialDialog();
    case 'programmer':
      return wireDialog();
    case 'probe':
      return probeDialog();
    default:
      return updateDialog(at, pageBytes);
  }
}

type Told = Pick<FlashProgress, 'phase' | 'done' | 'total'>;

const NO_ANSWER: Partial<Record<RouteKind, string>> = {
  serial: 'nobody answered the call: no bootloader, another port, another speed, or the wrong moment after the reset',
  programmer: 'the chip did not answer: two wires exchanged, a label of the other side, no voltage, or no ground',
  probe: 'the chip did not answer: clock and data exchanged, no voltage, or no ground',
  'update-class': 'the computer finds no device: the loader was not started, or there is none',
}; // prettier-ignore

/** What a tool does that reaches flash by addresses: call, unlock, erase, write, read back, leave. */
function* toolTalk(job: FlashJob, memory: FlashMemory, { sold }: Table, told: Told): Talk<CardOutcome> {
  const dialog = dialogOf(job, memory);
  const signature = yield* dialog.call();
  if (signature === undefined)
    return refused('no answer', NO_ANSWER[job.route.kind] ?? 'nobody answered the call');
  const known = sold.chip.programming?.signature;
  if (known !== undefined && signature !== known)
    return refused('other chip', `the chip says ${signature}; a ${sold.chip.name} says ${known}`);
  if (job.does === 'try') {
    yield* dialog.leave();
    return { taken: true, name: job.name };
  }
  const began = memory.written();
  const broke = yield* writeAll(job, dialog, memory, told);
  if (broke) return memory.written() > began && !broke.taken ? { ...broke, partly: true } : broke;
  Object.assign(told, { phase: 'leaving', done: 1, total: 1 });
  yield* dialog.leave();
  return { taken: true, name: job.name };
}

/** Pages of a job, each at its address. */
function pagesOf({ bytes, at }: FlashJob, pageBytes: number): { at: number; bytes: Uint8Array }[] {
  return Array.from({ length: Math.ceil(bytes.length / pageBytes) }, (_, index) => ({
    at: at + index * pageBytes,
    bytes: bytes.subarray(index * pageBytes, (index + 1) * pageBytes),
  }));
}

/** What broke it off; undefined when all of it is written and reads back the same. */
function* writeAll(job: FlashJob, dialog: Dialog, memory: FlashMemory, told: Told): Talk<CardOutcome | undefined> {
  const pages = pagesOf(job, memory.pageBytes);
  const beforeImage = job.at < memory.ends;
  if (beforeImage && dialog.setLocked) {
    Object.assign(told, { phase: 'unlocking', done: 0, total: 1 });
    if (!(yield* dialog.setLocked(false))) return refused('locked', 'the lock words cannot be changed');
  }
  // A bootloader wants all of its room, whatever lay there before.
  const erased = job.does === 'bootloader' ? pagesOf({ ...job, bytes: new Uint8Array(memory.ends) }, memory.pageBytes) : pages;
  const steps: readonly [Phase, (page: (typeof pages)[number]) => Talk<CardOutcome | undefined>][] = [
    ['erasing', function* ({ at }) {
      if (!dialog.erase || (yield* dialog.erase(at))) return undefined;
      return refused('locked', `the page at 0x${at.toString(16)} cannot be erased: the lock words keep it, or it lies outside`);
    }],
    ['writing', function* ({ at, bytes }) {
      return (yield* dialog.write(at, bytes)) ? undefined : refused('not written', `the page at 0x${at.toString(16)} was not written`);
    }],
    ['reading back', function* ({ at, bytes }) {
      if (!dialog.read) return undefined;
      const back = yield* dialog.read(at, bytes.length);
      return back && sameBytes(back, bytes) ? undefined : refused('differs', `the page at 0x${at.toString(16)} does not read back as it was sent`);
    }],
  ];
  for (const [phase, step] of steps) {
    const all = phase === 'erasing' ? erased : pages;
    Object.assign(told, { phase, done: 0, total: all.length });
    for (const page of all) {
      const broke = yield* step(page);
      if (broke) return broke;
      told.done += 1;
    }
  }
  if (job.does === 'bootloader' && dialog.setLocked) yield* dialog.setLocked(true);
  return undefined;
} // prettier-ignore

/** A file copied onto the drive of a chip; nothing can be read back, but it leaves when it has everything. */
function* copying({ name, bytes, at, does }: FlashJob, { sold: { chip } }: Table, told: Told): Talk<CardOutcome> {
  const file = fromBase64(toUf2({ base64: toBase64(inWholeBlocks(bytes)), address: chip.flash_at + at, ...(chip.uf2_family !== undefined && { family: chip.uf2_family }) }).base64);
  const total = file.length / SECTOR;
  Object.assign(told, { phase: 'writing', done: 0, total });
  let said = 0;
  for (let sector = 0; sector < (does === 'try' ? 1 : total); sector += 1) {
    const send = does === 'try' ? new Uint8Array(SECTOR) : file.subarray(sector * SECTOR, (sector + 1) * SECTOR);
    const heard = yield { send, want: 1, busyMs: 4 };
    if (!heard) return refused('no answer', 'no drive appears: the loader was not started, or there is none');
    said = certain(heard[0], 'what the drive said');
    told.done += 1;
  }
  if (does === 'try' || said === GONE) return { taken: true, name };
  return refused('left alone', 'the drive stays: it left blocks alone that are not for its family, or not for its flash');
} // prettier-ignore
