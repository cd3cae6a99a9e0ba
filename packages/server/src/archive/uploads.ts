import { randomUUID } from 'node:crypto';
import { appendFile, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Context } from '../context';
import { MOST } from './layout';
import { type OpenArchive, openArchive } from './openArchive';
import { type Choice, type Planned, planOf, takeArchive } from './takeArchive';

/** Archives on their way in, piece by piece, so that neither side holds one whole. What a process leaves is cleared at the next start. */
export interface Uploads {
  begin(): Promise<{ id: string }>;
  add(id: string, nth: number, bytes: Uint8Array): Promise<{ pieces: number }>;
  plan(id: string): Promise<Planned[]>;
  take(id: string, choices: Readonly<Record<string, Choice>>): Promise<string[]>;
  drop(id: string): Promise<void>;
}

/** More than anybody brings in at a time; the oldest goes. */
const MOST_AT_ONCE = 4;

export function createUploads(context: Context): Uploads {
  const pieces = new Map<string, number>();
  /** Cleared with whatever else was half written. */
  const pathOf = (id: string): string => join(context.data, `archive-${id}.part`);
  const known = (id: string): number => {
    const count = pieces.get(id);
    if (count === undefined) throw notFound('upload', id);
    return count;
  };
  const drop = async (id: string): Promise<void> => {
    known(id);
    pieces.delete(id);
    await rm(pathOf(id), { force: true });
  };
  const within = async <T>(id: string, run: (archive: OpenArchive) => Promise<T>): Promise<T> => {
    known(id);
    const archive = await openArchive(pathOf(id));
    try {
      return await run(archive);
    } finally {
      await archive.close();
    }
  };
  return {
    async begin() {
      const [oldest] = pieces.keys();
      if (oldest !== undefined && pieces.size >= MOST_AT_ONCE) await drop(oldest);
      const id = randomUUID();
      await writeFile(pathOf(id), '');
      pieces.set(id, 0);
      return { id };
    },
    async add(id, nth, bytes) {
      const count = known(id);
      if (nth !== count) throw new Refusal('not-so', `piece ${count} comes next, not ${nth}`);
      const { size } = await stat(pathOf(id));
      if (size + bytes.length > MOST.bytes)
        throw new Refusal('too-large', 'this archive is larger than any shelf');
      pieces.set(id, count + 1);
      await appendFile(pathOf(id), bytes);
      return { pieces: count + 1 };
    },
    plan: (id) => within(id, (archive) => planOf(context, archive)),
    async take(id, choices) {
      const taken = await within(id, (archive) => takeArchive(context, archive, choices));
      await drop(id);
      return taken;
    },
    drop,
  };
}
