import {
  type Build,
  type BuildInput,
  type BuildMarks,
  type DoneBuild,
  type FailedBuild,
  MOST_BUILDS,
} from '@jolly/contract/endpoints/builds';
import type { Culprit } from '@jolly/core/build/diagnostic';
import type { Queries } from './db';

interface Row {
  id: string;
  machine: string;
  machine_version: number;
  state: Build['state'];
  started_at: Date;
  ended_at: Date | null;
  result: DoneBuild | FailedBuild | null;
  label: string;
  pinned: boolean;
  cleared_at: Date | null;
}
const COLUMNS =
  'id, machine, machine_version, state, started_at, ended_at, result, label, pinned, cleared_at';

function stored(row: Row): Build {
  // The columns that a build in this state has, as the table's rules say.
  return {
    id: row.id,
    machineId: row.machine,
    machineVersion: row.machine_version,
    startedAt: row.started_at.toISOString(),
    state: row.state,
    label: row.label,
    pinned: row.pinned,
    ...(row.cleared_at && { clearedAt: row.cleared_at.toISOString() }),
    ...(row.ended_at && { endedAt: row.ended_at.toISOString() }),
    ...row.result,
  } as Build;
}

export async function addBuild(
  db: Queries,
  build: { id: string; machine: string; version: number; at: Date; input: BuildInput },
): Promise<void> {
  await db.query(
    `insert into build (id, machine, machine_version, state, started_at, input) values ($1, $2, $3, 'running', $4, $5)`,
    [build.id, build.machine, build.version, build.at, JSON.stringify(build.input)],
  );
}

export async function endBuild(
  db: Queries,
  id: string,
  end: {
    state: 'done' | 'failed' | 'cancelled' | 'interrupted';
    at: Date;
    log: string;
    map?: string;
    result?: DoneBuild | FailedBuild;
  },
): Promise<void> {
  await db.query(
    `update build set state = $2, ended_at = $3, log = $4, result = $5, map = $6 where id = $1 and state = 'running'`,
    [id, end.state, end.at, end.log, end.result ? JSON.stringify(end.result) : null, end.map ?? null],
  );
}

export async function findBuild(db: Queries, id: string): Promise<Build | undefined> {
  const [row] = await db.query<Row>(`select ${COLUMNS} from build where id = $1`, [id]);
  return row && stored(row);
}

export async function buildLog(db: Queries, id: string): Promise<string> {
  return (await db.query<{ log: string }>('select log from build where id = $1', [id]))[0]?.log ?? '';
}

/** Writes down what breaks a build that failed. */
export async function putCulprit(db: Queries, id: string, culprit: Culprit): Promise<void> {
  await db.query(
    `update build set result = jsonb_set(result, '{culprit}', $2::jsonb) where id = $1 and state = 'failed'`,
    [id, JSON.stringify(culprit)],
  );
}

/** What the newest build that ended well before another began was made from. */
export async function goodBefore(db: Queries, id: string): Promise<BuildInput | undefined> {
  const [row] = await db.query<{ input: BuildInput }>(
    `select good.input from build bad join build good on good.machine = bad.machine and good.state = 'done' and good.started_at < bad.started_at
     where bad.id = $1 order by good.started_at desc limit 1`,
    [id],
  );
  return row?.input;
}

/** Guard settings that were off when an image was built, by the image's hash; an image that was not built here is missing. */
export async function guardsOffIn(
  db: Queries,
  hashes: readonly string[],
): Promise<{ hash: string; off: string[] }[]> {
  return db.query(
    `select distinct on (result->>'imageHash') result->>'imageHash' as hash,
       jsonb_path_query_array(input, '$.settings[*] ? (@.key starts with "guard." && @.value == false).key') as off
     from build where state = 'done' and result->>'imageHash' = any($1)`,
    [hashes],
  );
}

/** The linker's map of its image; undefined where none was kept, or it was cleared away. */
export async function buildMap(db: Queries, id: string): Promise<string | undefined> {
  return (await db.query<{ map: string | null }>('select map from build where id = $1', [id]))[0]?.map ?? undefined; // prettier-ignore
}

export async function markBuild(db: Queries, id: string, { label, pinned }: BuildMarks): Promise<void> {
  await db.query('update build set label = $2, pinned = $3 where id = $1', [id, label, pinned]);
}

/**
 * Builds beside the newest so many that ended well, whose images nothing needs: not pinned, never flashed, not in the board,
 * rested on by no proof, not kept.
 */
export async function clearableBuilds(db: Queries, machine: string, keep: number): Promise<Build[]> {
  const rows = await db.query<Row>(
    `select ${COLUMNS} from build where machine = $1 and state = 'done' and cleared_at is null and not pinned
     and id not in (select id from build where machine = $1 and state = 'done' order by started_at desc limit $2)
     and result->>'imageHash' not in (select result->>'imageHash' from build where machine = $1 and state = 'done' and (pinned or id in
       (select id from build where machine = $1 and state = 'done' order by started_at desc limit $2)))
     and result->>'imageHash' not in (${USED_IMAGES})
     order by started_at desc limit ${MOST_BUILDS}`,
    [machine, keep],
  );
  return rows.map(stored);
}

/** Images that something beside a build of this machine points at. */
const USED_IMAGES = `select image_hash from flash where image_hash is not null union select image_hash from board where image_hash is not null
  union select image_hash from proof where image_hash is not null union select hash from kept
  union select result->>'imageHash' from build where machine <> $1 and state = 'done' and cleared_at is null`;

/** Says that the images of builds are gone, and lets their maps go. */
export async function clearBuilds(db: Queries, ids: readonly string[], at: Date): Promise<void> {
  await db.query('update build set cleared_at = $2, map = null where id = any($1)', [ids, at]);
}

export async function buildInputOf(db: Queries, id: string): Promise<BuildInput | undefined> {
  return (await db.query<{ input: BuildInput }>('select input from build where id = $1', [id]))[0]?.input;
}

export async function listBuilds(db: Queries, machine: string, limit: number): Promise<Build[]> {
  return (
    await db.query<Row>(`select ${COLUMNS} from build where machine = $1 order by started_at desc limit $2`, [
      machine,
      limit,
    ])
  ).map(stored);
}

/** The newest build of every machine that has one. */
export async function newestBuilds(db: Queries): Promise<Build[]> {
  const rows = await db.query<Row>(
    `select newest.* from machine cross join lateral
       (select ${COLUMNS} from build where build.machine = machine.id order by started_at desc limit 1) newest`,
  );
  return rows.map(stored);
}

/** The newest build of a machine that ended well, with what it was made from. */
export async function lastDone(
  db: Queries,
  machine: string,
): Promise<{ build: Build; input: BuildInput } | undefined> {
  const [row] = await db.query<Row & { input: BuildInput }>(
    `select ${COLUMNS}, input from build where machine = $1 and state = 'done' order by started_at desc limit 1`,
    [machine],
  );
  return row && { build: stored(row), input: row.input };
}

/** Builds that ran when the server went down; they are marked so and returned. */
export async function interruptRunning(db: Queries, at: Date): Promise<{ id: string; machine: string }[]> {
  return db.query(
    `update build set state = 'interrupted', ended_at = $1 where state = 'running' returning id, machine`,
    [at],
  );
}
