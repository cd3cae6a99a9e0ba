import type { Plate } from '@jolly/contract/endpoints/machines';
import { unguarded } from '@jolly/core/settings/guardsOff';
import type { Within } from '../context';
import { flashedBoards } from '../sql/boards';
import { newestBuilds } from '../sql/builds';
import { lastCalibrations } from '../sql/calibrations';
import { allDues } from '../sql/dues';
import { lastProofs } from '../sql/entries';
import { hashesOnBoards, headersOnBoards } from '../sql/images';
import { openJobs } from '../sql/jobs';
import { policies } from '../sql/policies';
import { proofsOnBoards } from '../sql/proofs';
import { untilWritten } from '../sql/untilWritten';
import { keyOf } from './board';
import { guardsOffInImages } from './unguardedImages';
import { stillHolding } from './prove';
import { upkeepFrom } from './calibrations';
import { type ReadMachine, readShelf } from './readShelf';

/** The shelf: every machine with what runs on it and what is open. It is read table by table, however many machines there are. */
export async function shelf(context: Within): Promise<Plate[]> {
  const rows = await shelfRows(context.db);
  return (await readShelf(context)).map((machine) => plateOf(context, machine, rows));
}

function byMachine<Row extends { machine: string }>(rows: readonly Row[]): ReadonlyMap<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(row.machine);
    if (group) group.push(row);
    else groups.set(row.machine, [row]);
  }
  return groups;
}

type ShelfRows = Awaited<ReturnType<typeof shelfRows>>;

const shelfRows = untilWritten(async (db) => ({
  flashed: await flashedBoards(db),
  headers: await headersOnBoards(db),
  guards: await guardsOffInImages(db, await hashesOnBoards(db)),
  proofs: byMachine(await proofsOnBoards(db)),
  builds: new Map((await newestBuilds(db)).map((build) => [build.machineId, build])),
  jobs: new Map((await openJobs(db)).map(({ machine, ...job }) => [machine, job])),
  measured: byMachine(await lastCalibrations(db)),
  left: byMachine(await allDues(db)),
  policies: await policies(db),
  lastProofs: await lastProofs(db),
}));

function plateOf(context: Within, stored: ReadMachine, rows: ShelfRows): Plate {
  const { id, version, changedAt, machine, read } = stored;
  if ('problems' in read) return { machine, version, changedAt, at: 'shelf', problems: read.problems };
  const { facts, settings, judged } = read;
  const board = rows.flashed(keyOf(facts));
  const image = board && rows.headers.get(board.imageHash);
  const ofImage = (rows.proofs.get(id) ?? []).filter(({ imageHash }) => imageHash === board?.imageHash);
  const [measured, left] = [rows.measured.get(id) ?? [], rows.left.get(id) ?? []];
  const due = upkeepFrom(facts, settings, { measured, left }, context.now()).filter(
    ({ state }) => state === 'due',
  );
  const [lastBuild, job, policy] = [rows.builds.get(id), rows.jobs.get(id), rows.policies.get(id)];
  const lastProofAt = rows.lastProofs.get(id);
  return {
    machine,
    version,
    changedAt,
    at: 'shelf',
    boardName: facts.board.name,
    kitName: facts.kit.name,
    ...judged,
    unguarded: unguarded(facts, settings, board?.imageHash ? rows.guards.get(board.imageHash) : undefined),
    ...(image && { image }),
    proofs: board
      ? stillHolding(
          ofImage.map(({ machine: _machine, ...proof }) => proof),
          { facts, settings, store: board.store },
        )
      : [],
    ...(lastProofAt !== undefined && { lastProofAt }),
    ...(lastBuild && { lastBuild }),
    due: due.length,
    dueTitles: due.map(({ title }) => title),
    ...(policy && { policy }),
    ...(job && { job }),
  };
}
