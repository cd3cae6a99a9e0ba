import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { type Remote, wrap } from 'comlink';
import type { CoreWorker } from './coreWorker';

let core: Remote<CoreWorker> | undefined;
let told: Catalogue | undefined;

/** Starts the one worker that computes; it reads its program while the catalogue is still on its way. */
export function startCore(): Remote<CoreWorker> {
  core ??= wrap<CoreWorker>(new Worker(new URL('./coreWorker.ts', import.meta.url), { type: 'module' }));
  return core;
}

/** That worker, told of the catalogue whenever it has changed. */
export function coreWorker(catalogue: Catalogue): Remote<CoreWorker> {
  const worker = startCore();
  if (told !== catalogue) void worker.setCatalogue(catalogue);
  told = catalogue;
  return worker;
}
