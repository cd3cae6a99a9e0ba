import { Refusal, written } from '@jolly/contract/refusal';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { mkdir, statfs } from 'node:fs/promises';
import { createApp } from './app';
import { createBuilds } from './app/builds';
import { createCulprits } from './app/culprits';
import { createFlashRuns } from './app/flashRuns';
import { createMeasuring } from './app/measuring';
import { type Compiler, startCompiler } from './build/compiler';
import { openContext } from './context';
import { startChores } from './data/chores';
import { putCopy } from './data/copies';
import { DataProblem, onDisk } from './data/dataProblem';
import { takeHold } from './data/holder';
import { clearLeftovers } from './data/leftovers';
import { layDemo } from './demo/layDemo';
import { folderStore } from './files/byteStore';
import { startReading } from './reading/reading';
import { forgetLapsed } from './app/photos';
import { openDb } from './sql/db';
import { paths } from './paths';

export interface StartOptions {
  root: string;
  /** Folder for everything that is kept: database, images, objects. */
  data: string;
  port: number;
  demo: boolean;
  now?: () => Date;
  /** One that goes on after this server; without it, it has its own. */
  compiler?: Compiler;
}
export interface Started {
  address: string;
  stop(): Promise<void>;
}

/** What running a proof's run again may take. */
const REPLAY_LIMIT_S = 90;
/** Longer than browsers keep an idle connection: on a busy machine a request would meet one that is just being closed. */
const KEPT_ALIVE_MS = 310_000;
/** How long a first request is waited for. */
const UNASKED_MS = 1000;
/** Free room below which nothing is begun: a new database takes 40 MB. */
const ROOM_TO_START = 64 * 2 ** 20;

/**
 * Starts the product on 127.0.0.1; port 0 takes any free one. The folder is taken and the port bound before anything
 * is opened; when a step fails, what was opened before it is closed again.
 * @throws {DataProblem} when the kept data cannot be worked with
 */
export async function start(options: StartOptions): Promise<Started> {
  const opened: (() => unknown)[] = [];
  const close = async () => {
    for (const undo of opened.reverse()) await undo();
  };
  try {
    const address = await onDisk(options.data, () => open(options, (undo) => opened.push(undo)));
    return { address, stop: close };
  } catch (error) {
    await close();
    throw error;
  }
}

async function open(
  { root, data, port, demo, now = () => new Date(), compiler: lent }: StartOptions,
  opened: (undo: () => unknown) => void,
): Promise<string> {
  const at = paths(root, data);
  await mkdir(data, { recursive: true });
  await refuseFull(data);
  const hold = await takeHold(data, now());
  opened(() => hold.release());

  let answer: RequestListener = stillStarting;
  const server = await listen(
    createServer({ keepAliveTimeout: KEPT_ALIVE_MS }, (http, reply) => answer(http, reply)),
    port,
  );
  opened(() => shut(server));
  // It listens on a port, so its address is one of these.
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

  await clearLeftovers(data);
  const db = await openDb({
    folder: at.database,
    migrations: at.migrations,
    template: at.emptyDatabase,
    beforeMigration: (before) => putCopy(data, before, now(), 'before-a-new-version').then(() => undefined),
  });
  opened(() => db.close());
  const reading = startReading(at.readerWorker);
  opened(() => reading.close());
  const replaying = startReading(at.readerWorker, REPLAY_LIMIT_S);
  opened(() => replaying.close());
  const context = await openContext({ root, data, demo, now }, db, { reading, replaying });
  const compiler = lent ?? startCompiler(at.compilerWorker);
  if (!lent) opened(() => compiler.close());
  const objects = folderStore(at.objects);
  const builds = createBuilds(context, compiler, objects);
  await builds.recover();
  opened(() => builds.interrupt());
  const measuring = createMeasuring(context, compiler, objects);
  opened(() => measuring.interrupt());
  const culprits = createCulprits(context, compiler, objects);
  opened(() => culprits.interrupt());
  const flashRuns = createFlashRuns(context);
  opened(() => flashRuns.interrupt());
  await forgetLapsed(context);
  if (demo) await layDemo(context);

  // Once more, so that it is the first to be closed: requests end before what they work with.
  opened(() => shut(server));
  const chores = startChores(context);
  opened(() => chores.stop());
  answer = createApp(context, { builds, measuring, culprits, flashRuns }, join(root, 'dist/web'));
  // To begin a process takes a tenth of a second, warming it both cores for one, a copy half a one.
  opened(afterFirstAnswer(server, () => void compiler.warm().then(chores.first).then(measuring.resume)));
  return address;
}

/** Does something once the first request is answered, or when for a second nobody asks. Answers what forgets it. */
function afterFirstAnswer(server: Server, act: () => void): () => void {
  const waits = new AbortController();
  const now = () => {
    if (!waits.signal.aborted) act();
    waits.abort();
  };
  const timer = setTimeout(now, UNASKED_MS);
  waits.signal.addEventListener('abort', () => clearTimeout(timer));
  server.once('request', (_http, reply) => reply.once('close', now));
  return () => waits.abort();
}

async function refuseFull(data: string): Promise<void> {
  const { bavail, bsize } = await statfs(data);
  if (bavail * bsize < ROOM_TO_START)
    throw new DataProblem(
      `the disk that holds ${data} is nearly full: ${Math.floor((bavail * bsize) / 2 ** 20)} MB are free, ${ROOM_TO_START / 2 ** 20} MB are needed. Free some room, then start again; nothing was changed`,
    );
}

/** What is answered between binding the port and being ready: to a program in JSON, to a browser as a page that asks again. */
const stillStarting: RequestListener = (http, reply) => {
  const page = http.headers.accept?.includes('text/html') ?? false;
  reply.writeHead(503, {
    'Content-Type': page ? 'text/html; charset=utf-8' : 'application/json',
    'Retry-After': '1',
  });
  reply.end(
    page
      ? '<!doctype html><html lang="en"><meta http-equiv="refresh" content="1"><title>Jolly Cog</title><p>Jolly Cog is starting. One moment.'
      : JSON.stringify(written(new Refusal('starting', 'Jolly Cog is starting'))),
  );
};

function listen(server: Server, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    server.once('listening', () => resolve(server));
    server.once('error', reject);
    server.listen(port, '127.0.0.1');
  });
}

/** Takes no more requests, lets those that run end, and drops streams that only wait. */
async function shut(server: Server): Promise<void> {
  const closed = new Promise((resolve) => server.close(resolve));
  server.closeAllConnections();
  await closed;
}
