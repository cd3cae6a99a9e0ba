/**
 * Tries to lose data, to stop the product and to make text code, from outside: `npm run campaign`, ten minutes, or
 * `-- --hours N`, `-- --minutes N`, `-- --seed N`, `-- --only WORDS`. Prints a table and the seed; exit code 1 when
 * anything failed.
 */
import { chance } from './chance';
import { newFolder, startProduct, throwFoldersAway } from './product';
import { grown, heldAtRest, inWords } from './soak';
import type { Trial } from './trial';
import { buildsAndCancels, eventStreams } from './trials/builds';
import { damage } from './trials/damage';
import { fullDisk } from './trials/fullDisk';
import { hostileHttp } from './trials/hostileHttp';
import { hostileText } from './trials/hostileText';
import { killsInFirstStart, killsUnderWrites } from './trials/kills';
import { parallelClients } from './trials/parallel';
import { closeReading, readerBombs } from './trials/readerBombs';
import { twoServers } from './trials/twoServers';

const TRIALS: Trial[] = [
  killsUnderWrites,
  killsInFirstStart,
  twoServers,
  fullDisk,
  damage,
  hostileHttp,
  hostileText,
  readerBombs,
  parallelClients,
  buildsAndCancels,
  eventStreams,
];
const HOUR_MS = 3_600_000;

const words = process.argv.slice(2);
const told = (name: string) => {
  const at = words.indexOf(`--${name}`);
  return at < 0 ? undefined : words[at + 1];
};
const seed = Number(told('seed') ?? Date.now() % 2 ** 31);
const lasts =
  told('hours') !== undefined
    ? Number(told('hours')) * HOUR_MS
    : (Number(told('minutes') ?? 10) * HOUR_MS) / 60;
const only = told('only');

interface Row {
  trial: Trial;
  attempts: number;
  spentMs: number;
  failures: string[];
  impossible?: string;
}

async function campaign(): Promise<number> {
  const rows: Row[] = TRIALS.filter(({ name }) => !only || name.includes(only)).map((trial) => {
    const impossible = trial.impossible?.();
    return { trial, attempts: 0, spentMs: 0, failures: [], ...(impossible && { impossible }) };
  });
  const data = newFolder();
  const house = await startProduct(data);
  const rolled = chance(seed);
  let before: Awaited<ReturnType<typeof heldAtRest>>;
  const until = Date.now() + lasts;
  console.log(`campaign: seed ${seed}, ${Math.round(lasts / 60_000)} minutes`);
  while (Date.now() < until) {
    const next = leastServed(rows);
    if (!next) break;
    const from = Date.now();
    try {
      await next.trial.attempt({ chance: rolled, house, count: next.attempts });
    } catch (error) {
      next.failures.push((error as Error).message);
      console.log(`FAILED  ${next.trial.name}, attempt ${next.attempts + 1}: ${(error as Error).message}`);
    }
    next.attempts += 1;
    next.spentMs += Date.now() - from;
    // Warm is the state to compare with: everything was used once.
    if (!before && rows.every((row) => row.impossible ?? row.attempts > 0))
      before = await heldAtRest(house.pid, data);
  }
  const after = await heldAtRest(house.pid, data);
  const code = await house.kill('SIGTERM');
  const held = before && after ? { before, after } : undefined;
  return table(
    rows,
    held && [...grown(held.before, held.after), ...(code === 0 ? [] : [`ended with ${code}`])],
    held,
  );
}

/** The trial that has had the least of its share of the time. */
function leastServed(rows: Row[]): Row | undefined {
  return rows
    .filter(({ impossible }) => impossible === undefined)
    .reduce<Row | undefined>(
      (least, row) =>
        !least || row.spentMs / row.trial.share < least.spentMs / least.trial.share ? row : least,
      undefined,
    );
}

function table(
  rows: Row[],
  soak: string[] | undefined,
  held: { before: object; after: object } | undefined,
): number {
  console.log(
    `\n${'trial'.padEnd(38)} ${'attempts'.padStart(8)} ${'failures'.padStart(8)} ${'minutes'.padStart(8)}`,
  );
  for (const { trial, attempts, failures, spentMs, impossible } of rows)
    console.log(
      `${trial.name.padEnd(38)} ${String(attempts).padStart(8)} ${String(failures.length).padStart(8)} ${(spentMs / 60_000).toFixed(1).padStart(8)}${impossible ? `  not tried: ${impossible}` : ''}`,
    );
  if (soak && held)
    console.log(
      `${'the house, from warm to the end'.padEnd(38)} ${'1'.padStart(8)} ${String(soak.length).padStart(8)}           ${inWords(held.before as never)} → ${inWords(held.after as never)}${soak.length > 0 ? `: ${soak.join(', ')}` : ''}`,
    );
  const failed = rows.reduce((sum, { failures }) => sum + failures.length, 0) + (soak?.length ?? 0);
  console.log(`\nseed ${seed}: ${failed === 0 ? 'nothing failed' : `${failed} failed`}`);
  return failed === 0 ? 0 : 1;
}

const code = await campaign().finally(async () => {
  await closeReading();
  throwFoldersAway();
});
process.exit(code);
