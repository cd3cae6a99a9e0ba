import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { shareObjects } from '../packages/server/test/fixtures/sharedObjects';

/** A server of a test's own, which may be killed and started again on what it kept. */
export interface OwnServer {
  /** Where it answers; empty until it was started. It stays the same when it is started again. */
  address(): string;
  start(): Promise<void>;
  kill(): Promise<void>;
  throwAway(): Promise<void>;
}

const root = join(import.meta.dirname, '..');

/** The demo on data of its own. What any test compiled, it need not compile anew. */
export function ownServer(): OwnServer {
  const data = mkdtempSync(join(tmpdir(), 'jolly-own-'));
  let child: ChildProcess | undefined;
  let address = '';
  const ended = (of: ChildProcess) => new Promise((resolve) => of.once('exit', resolve));
  const kill = async () => {
    if (!child) return;
    const gone = ended(child);
    child.kill('SIGKILL');
    await gone;
    child = undefined;
  };
  return {
    address: () => address,
    async start() {
      shareObjects(root, join(data, 'demo'));
      const port = address ? new URL(address).port : '0';
      const started = spawn(process.execPath, ['../dist/jolly.mjs', 'demo', '--port', port], {
        cwd: import.meta.dirname,
        env: { ...process.env, JOLLY_DATA: data, JOLLY_ROOT: root },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child = started;
      address = await new Promise<string>((resolve, reject) => {
        let said = '';
        started.stdout?.on('data', (text: Buffer) => {
          said += String(text);
          const [found] = /http:\/\/127[.\d]+:\d+/.exec(said) ?? [];
          if (found) resolve(found);
        });
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
