import { join } from 'node:path';
import { start } from '../packages/server/src/start';
import { runScript } from './runScript';

/** What is measured in a real browser, each against the same demo; what lays machines there comes last. */
const MEASURES = ['firstLoad', 'keyFrames', 'mapFrames', 'dragFrames', 'shelfFrames'];

/** The interface in Debian's Chromium, headless and without a graphics card: loads, keys, drags and a long shelf. */
export async function windowBench(root: string, scratch: string): Promise<void> {
  const server = await start({ root, data: join(scratch, 'window'), port: 0, demo: true });
  try {
    for (const measure of MEASURES) await runScript(join(root, 'bench', `${measure}.mjs`), server.address);
  } finally {
    await server.stop();
  }
}
