import type { Queries } from './db';

/** Tables that grow with every day of work. */
const GROWING = ['entry', 'build', 'flash', 'proof', 'calibration', 'machine_edit', 'photo'];

/**
 * Tells the database how its rows are spread. No process beside it does so here, and a database that takes a logbook
 * of thousands for one of twelve sorts the whole of it for every page.
 */
export async function learnSpread(db: Queries): Promise<void> {
  await db.query(`analyze ${GROWING.join(', ')}`);
}
