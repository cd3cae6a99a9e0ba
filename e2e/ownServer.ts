import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A server of a test's own, which may be killed and started again on what it kept. */
export interface OwnServer {
  address: string;
  start(): Promise<void>;
  kill(): Promise<void>;
  throwAway(): Promise<void>;
}

export function ownServer(port: number): OwnServer {
  const data = mkdtempSync(join(tmpdir(), 'jolly-own-'));
  let child: ChildProcess | undefined;
  const ended = (of: ChildProcess) => new Promise((resolve) => of.once('exit', resolve));
  const kill = async () => {
    if (!child) return;
    const gone = ended(child);
    child.kill('SIGKILL');
    await gone;
    child = undefined;
  };
  return {
    address: `http://127.0.0.1:${port}`,
    async start() {
      const started = spawn(process.execPath, ['../dist/jolly.mjs', 'demo', '--port', String(port)], {
        cwd: import.meta.dirname,
        env: { ...process.env, JOLLY_DATA: data, JOLLY_ROOT: join(import.meta.dirname, '..') },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child = started;
      await new Promise<void>((resolve, reject) => {
        started.stdout!.once('data', () => resolve());
        started.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
      });
    },
    kill,
    async throwAway() {
      await kill();
      rmSync(data, { recursive: true, force: true });
    },
  };
}
