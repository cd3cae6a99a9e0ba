import type { Queries } from './db';

/**
 * A reading whose answer is kept, for each database, until anything is written there.
 * Inside a transaction it is read each time, and not kept.
 */
export function untilWritten<T>(read: (db: Queries) => Promise<T>): (db: Queries) => Promise<T> {
  const kept = new WeakMap<Queries, { writes: number; answer: T }>();
  return async (db) => {
    const writes = db.writes?.();
    if (writes === undefined) return read(db);
    const known = kept.get(db);
    if (known?.writes === writes) return known.answer;
    const answer = await read(db);
    if (db.writes?.() === writes) kept.set(db, { writes, answer });
    return answer;
  };
}
