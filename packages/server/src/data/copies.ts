import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { writeDurably } from '../files/durable';
import type { Db } from '../sql/db';

const DAY_MS = 86_400_000;
/** How many copies are kept; the oldest goes first. */
const MOST_COPIES = 7;
const NAME = /^\d{4}-\d\d-\d\dT\d\d-\d\d-\d\d(?:-before-a-new-version)?\.tgz$/;

/** A copy of the whole database to fall back on. */
export interface Copy {
  name: string;
  bytes: number;
}

export const copiesFolder = (data: string): string => join(data, 'copies');

/** The copies in a data folder, newest first. */
export async function listCopies(data: string): Promise<Copy[]> {
  const names = await readdir(copiesFolder(data)).catch(() => []);
  const copies = names
    .filter((name) => NAME.test(name))
    .sort()
    .reverse();
  return Promise.all(
    copies.map(async (name) => ({ name, bytes: (await stat(join(copiesFolder(data), name))).size })),
  );
}

/** Puts a copy aside, on the disk when it resolves, and lets the oldest go. */
export async function putCopy(data: string, db: Db, now: Date, why?: 'before-a-new-version'): Promise<Copy> {
  const name = `${now.toISOString().slice(0, 19).replaceAll(':', '-')}${why ? `-${why}` : ''}.tgz`;
  await mkdir(copiesFolder(data), { recursive: true });
  const archive = await db.archive();
  await writeDurably(join(copiesFolder(data), name), archive);
  for (const old of (await listCopies(data)).slice(MOST_COPIES))
    await rm(join(copiesFolder(data), old.name), { force: true });
  return { name, bytes: archive.length };
}

/** The moment a copy was made. */
const madeAt = ({ name }: Copy): number =>
  Date.parse(`${name.slice(0, 10)}T${name.slice(11, 19).replaceAll('-', ':')}Z`);

/** Puts a copy aside when the newest is a day old and something was written since. */
export async function copyDaily(data: string, db: Db, now: Date): Promise<Copy | undefined> {
  const [newest] = await listCopies(data);
  if (newest && now.getTime() - madeAt(newest) < DAY_MS) return undefined;
  const since = newest ? new Date(madeAt(newest)) : new Date(0);
  const [row] = await db.query<{ changed: boolean }>(
    `select exists (select from machine where changed_at > $1) or exists (select from entry where at > $1) as changed`,
    [since],
  );
  return row?.changed ? putCopy(data, db, now) : undefined;
}
