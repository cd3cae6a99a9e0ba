import type { CalibrationToRecord, StoredCalibration } from '@jolly/contract/endpoints/calibrations';
import type { Queries } from './db';

type Stored = Omit<StoredCalibration, 'title'>;
interface Row extends Omit<Stored, 'id' | 'at' | 'with' | 'wentTo' | 'map'> {
  id: string | number;
  at: Date;
  measured_with: Stored['with'];
  went_to: Stored['wentTo'];
  map: Stored['map'] | null;
}

const stored = ({ id, at, measured_with, went_to, map, ...row }: Row): Stored => ({
  ...row,
  id: Number(id),
  at: at.toISOString(),
  with: measured_with,
  wentTo: went_to,
  ...(map && { map }),
});

export async function addCalibration(
  db: Queries,
  machine: string,
  { calibration, outcome, words, evidence, figures, wentTo, map }: CalibrationToRecord,
  { at, measuredWith }: { at: Date; measuredWith: Stored['with'] },
): Promise<void> {
  await db.query(
    `insert into calibration (machine, calibration, at, outcome, words, evidence, figures, measured_with, went_to, map)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)`,
    [
      machine, calibration, at, outcome, words, JSON.stringify(evidence), JSON.stringify(figures), JSON.stringify(measuredWith),
      JSON.stringify(wentTo), map ? JSON.stringify(map) : null,
    ], // prettier-ignore
  );
}

/** Takes a measurement off the record; undefined where there is none of that number. */
export async function dropCalibration(
  db: Queries,
  machine: string,
  id: number,
): Promise<Pick<Stored, 'at' | 'words'> | undefined> {
  const [row] = await db.query<Pick<Row, 'at' | 'words'>>(
    'delete from calibration where machine = $1 and id = $2 returning at, words',
    [machine, id],
  );
  return row && { ...row, at: row.at.toISOString() };
}

/** What was measured at a machine, newest first. */
export async function listCalibrations(db: Queries, machine: string, limit: number): Promise<Stored[]> {
  const rows = await db.query<Row>(
    `select id, calibration, at, outcome, words, evidence, figures, measured_with, went_to, map
     from calibration where machine = $1 order by at desc, id desc limit $2`,
    [machine, limit],
  );
  return rows.map(stored);
}

type Last = Pick<Stored, 'calibration' | 'outcome' | 'at' | 'with' | 'figures'> & { machine: string };

/** Of each calibration the newest, without its words and its map; of one machine, or of all. */
export async function lastCalibrations(db: Queries, machine?: string): Promise<Last[]> {
  const rows = await db.query<Omit<Last, 'at' | 'with'> & Pick<Row, 'at' | 'measured_with'>>(
    `select distinct on (machine, calibration) machine, calibration, outcome, at, measured_with, figures
     from calibration where $1::text is null or machine = $1
     order by machine, calibration, at desc, id desc`,
    [machine ?? null],
  );
  return rows.map(({ at, measured_with, ...row }) => ({
    ...row,
    at: at.toISOString(),
    with: measured_with,
  }));
}
