import { join } from 'node:path';
import { openDb, type Queries } from '../packages/server/src/sql/db';
import { paths } from '../packages/server/src/paths';
import { learnSpread } from '../packages/server/src/sql/statistics';
import { start } from '../packages/server/src/start';
import { spread, timedAsync } from './figures';
import { runScript } from './runScript';

const MACHINES = 50;
const ENTRIES = 5000;
const BUILDS = 1000;
const ROUNDS = 100;
const SETTLED_MS = 8000;

/**
 * A shelf as large as a library's: how long its API takes to answer, against the same rows read plainly from the database.
 */
export async function recordBench(
  root: string,
  scratch: string,
  say: (what: string, figure: string) => void,
): Promise<void> {
  const data = join(scratch, 'record');
  await (await start({ root, data, port: 0, demo: true })).stop();
  const at = paths(root, data);
  const open = () => openDb({ folder: at.database, migrations: at.migrations });
  const db = await open();
  await db.transaction(fill);
  // As the server does after its start and each day.
  await learnSpread(db);
  await db.close();
  const server = await start({ root, data, port: 0, demo: true });
  const get = (path: string) => async () => void (await (await fetch(`${server.address}/api${path}`)).text());
  const reads = {
    'time line, first page': { path: '/machines/dunlin/timeline', sql: "select id, at, kind, summary, detail from entry where machine = 'dunlin' order by at desc, id desc limit 200" },
    'time line, three words': { path: '/machines/dunlin/timeline?words=line+41+of', sql: "select id, at, kind, summary, detail from entry where machine = 'dunlin' and lower(summary) like '%line%' and lower(summary) like '%41%' and lower(summary) like '%of%' order by at desc, id desc limit 200" },
    'what was measured': { path: '/machines/bittern/calibrations', sql: "select * from calibration where machine = 'bittern' order by at desc" },
    'builds': { path: '/machines/dunlin/builds', sql: "select id, machine, machine_version, state, started_at, ended_at, result, label, pinned, cleared_at from build where machine = 'dunlin' order by started_at desc limit 100" },
    'the shelf': { path: '/machines', sql: 'select document, version, changed_at from machine where put_away is null' },
  }; // prettier-ignore
  // Right after its start a server warms its compilers and copies its database; it is asked meanwhile, and not timed.
  const until = performance.now() + SETTLED_MS;
  while (performance.now() < until) await get('/machines')();
  const answered = new Map<string, number[]>();
  for (const [what, { path }] of Object.entries(reads))
    answered.set(what, await timedAsync(ROUNDS, get(path)));
  await runScript(join(root, 'bench/recordFrames.mjs'), server.address);
  await server.stop();
  const plain = await open();
  for (const [what, { sql }] of Object.entries(reads)) {
    const mine = spread(answered.get(what) ?? []);
    const bare = spread(await timedAsync(ROUNDS, async () => void (await plain.query(sql))));
    say(`${what}: median, p95 (budget 25 ms)`, `${mine.words}; the rows alone ${bare.words}, ${(mine.median / bare.median).toFixed(1)} ×`); // prettier-ignore
  }
  await plain.close();
}

async function fill(inside: Queries): Promise<void> {
  await inside.query(
    `insert into machine (id, version, document, changed_at)
     select 'copy-' || n, 1, jsonb_set(jsonb_set(document, '{id}', to_jsonb('copy-' || n)), '{name}', to_jsonb('Copy ' || n)), now()
     from machine, generate_series(1, ${MACHINES - 3}) n where machine.id = 'dunlin'`,
  );
  await inside.query(
    `insert into entry (machine, at, kind, summary, detail)
     select 'dunlin', now() - n * interval '1 hour', 'note', 'Line ' || n || ' of many', '{}' from generate_series(1, ${ENTRIES}) n`,
  );
  await inside.query(
    `insert into build (id, machine, machine_version, state, started_at, ended_at, input, log)
     select 'b' || n, 'dunlin', 1, 'cancelled', now() - n * interval '1 hour', now(), '{}', '' from generate_series(1, ${BUILDS}) n`,
  );
}
