import { type ChildProcessWithoutNullStreams, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export const root = process.cwd();

/** The product as a person starts it, watched from outside. */
export interface Product {
  /** Empty when it ended before it was ready. */
  address: string;
  pid: number;
  /** Exit code, or the signal that ended it. */
  ended: Promise<number | string>;
  /** What it said on standard error. */
  heard(): string;
  kill(signal?: NodeJS.Signals): Promise<number | string>;
}

/** A start takes two to four seconds; ten times that is no start. */
const PATIENCE_MS = 40_000;

/** Begins a start; the product may be killed while it starts. */
export function spawnProduct(data: string, port = 0): Product & { ready: Promise<string> } {
  const child: ChildProcessWithoutNullStreams = spawn(
    process.execPath,
    [join(root, 'dist/jolly.mjs'), 'demo', '--port', String(port)],
    { env: { ...process.env, JOLLY_ROOT: root, JOLLY_DATA: data } },
  );
  let heard = '';
  child.stderr.on('data', (text: Buffer) => (heard += String(text)));
  const ended = new Promise<number | string>((resolve) =>
    child.once('exit', (code, signal) => resolve(code ?? signal ?? '')),
  );
  const product = {
    address: '',
    pid: child.pid ?? 0,
    ended,
    heard: () => heard,
    kill: (signal: NodeJS.Signals = 'SIGKILL') => {
      child.kill(signal);
      return ended;
    },
    ready: Promise.race([
      new Promise<string>((resolve) =>
        child.stdout.on('data', (text: Buffer) => {
          const [address] = /http:\S+/.exec(String(text)) ?? [];
          if (address) resolve((product.address = address));
        }),
      ),
      ended.then(() => ''),
      new Promise<string>((_resolve, reject) =>
        setTimeout(() => reject(new Error('neither ready nor ended')), PATIENCE_MS).unref(),
      ),
    ]),
  };
  return product;
}

/** Starts it and waits until it is ready. @throws when it ends instead */
export async function startProduct(data: string): Promise<Product> {
  const product = spawnProduct(data);
  if ((await product.ready) === '')
    throw new Error(`did not start (${await product.ended}): ${product.heard().trim().slice(-300)}`);
  return product;
}

const made: string[] = [];
/** A new folder for data, thrown away at the end. */
export function newFolder(): string {
  made.push(mkdtempSync(join(tmpdir(), 'jolly-campaign-')));
  return made.at(-1)!;
}
export function throwFoldersAway(): void {
  for (const folder of made.splice(0)) rmSync(folder, { recursive: true, force: true });
}

export interface Answer {
  status: number;
  body: any; // eslint-disable-line @typescript-eslint/no-explicit-any
}

/** Sends a request; a broken connection is status 0. */
export async function call(address: string, method: string, path: string, body?: unknown): Promise<Answer> {
  try {
    const reply = await fetch(`${address}/api${path}`, {
      method,
      ...(body !== undefined && {
        headers: {
          'Content-Type': body instanceof Uint8Array ? 'application/octet-stream' : 'application/json',
        },
        body: body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
      }),
    });
    const text = await reply.text();
    const json = reply.headers.get('content-type')?.includes('json') ?? false;
    return { status: reply.status, body: json ? JSON.parse(text) : text };
  } catch {
    return { status: 0, body: undefined };
  }
}

/** The lines of Plover's logbook. @throws when it cannot be read */
export async function linesOf(address: string): Promise<Set<string>> {
  const { status, body } = await call(address, 'GET', '/machines/plover/entries');
  if (status !== 200) throw new Error(`the logbook was answered with ${status}`);
  return new Set((body as { summary: string }[]).map(({ summary }) => summary));
}

/** Whether the next start on a folder still has lines that were acknowledged. */
export async function linesLost(data: string, acknowledged: readonly string[]): Promise<string[]> {
  const product = await startProduct(data);
  try {
    const there = await linesOf(product.address);
    return acknowledged.filter((line) => !there.has(line));
  } finally {
    await product.kill();
  }
}
