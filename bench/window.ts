import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { start } from '../packages/server/src/start';

/** What is measured in a real browser, each against the same demo; what lays machines there comes last. */
const MEASURES = ['firstLoad', 'keyFrames', 'dragFrames', 'shelfFrames'];

/** The interface in Debian's Chromium, headless and without a graphics card: loads, keys, drags and a long shelf. */
export async function windowBench(root: string, scratch: string): Promise<void> {
  const server = await start({ root, data: join(scratch, 'window'), port: 0, demo: true });
  try {
    for (const measure of MEASURES) await runs(join(root, 'bench', `${measure}.mjs`), server.address);
  } finally {
    await server.stop();
  }
}

function runs(script: string, address: string): Promise<void> {
  const child = spawn(process.execPath, [script, address], { stdio: 'inherit' });
  return new Promise((resolve, reject) =>
    child.once('exit', (code) =>
      code === 0 ? resolve() : reject(new Error(`${script} ended with ${String(code)}`)),
    ),
  );
}
