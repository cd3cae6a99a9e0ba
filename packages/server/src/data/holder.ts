import { randomUUID } from 'node:crypto';
import { errorCode } from './errorCode';
import { readFileSync } from 'node:fs';
import { link, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { writeDurably } from '../files/durable';
import { DataProblem } from './dataProblem';

/** Who holds a data folder. */
export interface Holder {
  process: number;
  /** What tells this process from a later one of the same number; empty where the system does not say. */
  started: string;
  computer: string;
  since: string;
  released?: boolean;
}
export interface Hold {
  release(): Promise<void>;
}

/**
 * Takes a data folder for this process, before anything in it is opened. Holders stand in `holder/` as files counted
 * upwards; the highest one holds the folder while its process lives. A file is only ever added under the next number
 * (a link, so that of two takers one loses), and nobody deletes a file above its own: so there is never a moment in
 * which two can believe to hold it, whenever one of them is stopped.
 * @throws {DataProblem} when a living process holds it
 */
export async function takeHold(data: string, now: Date): Promise<Hold> {
  const folder = join(data, 'holder');
  await mkdir(folder, { recursive: true });
  const mine: Holder = { ...whoIsHere(), since: now.toISOString() };
  for (;;) {
    const newest = await newestIn(folder);
    const holder = newest && (await readHolder(join(folder, String(newest))));
    if (holder && isAlive(holder)) throw heldBy(data, holder);
    const number = (newest ?? 0) + 1;
    if (!(await added(folder, number, mine))) continue;
    if ((await newestIn(folder)) !== number) {
      // Somebody was faster with a higher number; ours never counted.
      await rm(join(folder, String(number)), { force: true });
      continue;
    }
    const below = (await numbersIn(folder)).filter((other) => other < number);
    await Promise.all(below.map((other) => rm(join(folder, String(other)), { force: true })));
    return {
      release: () => writeDurably(join(folder, String(number)), JSON.stringify({ ...mine, released: true })),
    };
  }
}

function heldBy(data: string, { process: id, computer, since }: Holder): DataProblem {
  const where = computer === hostname() ? '' : ` on the computer "${computer}"`;
  return new DataProblem(
    `another Jolly Cog works with ${data}: process ${id}${where}, since ${since}. End that one first, or name another folder in JOLLY_DATA`,
  );
}

async function numbersIn(folder: string): Promise<number[]> {
  const names = await readdir(folder).catch(() => []);
  return names.filter((name) => /^\d{1,15}$/.test(name)).map(Number);
}
async function newestIn(folder: string): Promise<number | undefined> {
  const numbers = await numbersIn(folder);
  return numbers.length > 0 ? Math.max(...numbers) : undefined;
}

async function readHolder(path: string): Promise<Holder | undefined> {
  let text: string;
  try {
    text = await readFile(path, 'utf8');
  } catch (error) {
    // Gone in this moment. Whatever else keeps it from being read says nothing of who holds the folder.
    if (errorCode(error) === 'ENOENT') return undefined;
    throw error;
  }
  try {
    // Only holders are written there; anything else is met as damaged.
    return JSON.parse(text) as Holder;
  } catch {
    // Damaged by a power cut: whoever wrote it does not live.
    return undefined;
  }
}

/** Adds a holder under a number; false when somebody else has it. The file appears whole or not at all. */
async function added(folder: string, number: number, holder: Holder): Promise<boolean> {
  // A name of its own: written over by another taker, what was linked a moment ago would be empty and count as damaged.
  const partial = join(folder, `${randomUUID()}.part`);
  await writeFile(partial, JSON.stringify(holder), { flush: true, flag: 'wx' });
  try {
    await link(partial, join(folder, String(number)));
    return true;
  } catch (error) {
    if (errorCode(error) === 'EEXIST') return false;
    throw error;
  } finally {
    await rm(partial, { force: true });
  }
}

const whoIsHere = (): Omit<Holder, 'since'> => ({
  process: process.pid,
  started: startOf(process.pid) ?? '',
  computer: hostname(),
});

/** A process of another computer counts as living: from here nobody can tell. */
function isAlive(holder: Holder): boolean {
  if (holder.released) return false;
  if (holder.computer !== hostname()) return true;
  try {
    process.kill(holder.process, 0);
  } catch (error) {
    return errorCode(error) === 'EPERM';
  }
  const started = startOf(holder.process);
  return started === undefined || holder.started === '' || started === holder.started;
}

/** The boot of the system and the tick a process was started at (proc(5), field 22); undefined where it is not told. */
function startOf(id: number): string | undefined {
  try {
    const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
    const fields = readFileSync(`/proc/${id}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
    return `${boot} ${fields[19]}`;
  } catch {
    return undefined;
  }
}
