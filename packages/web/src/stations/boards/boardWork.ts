import { type Remote, wrap } from 'comlink';
import type { BoardWork } from './boardWorker';

let worker: Remote<BoardWork> | undefined;
/** What is heavy about describing a board, in a thread of its own. */
export const boardWork = (): Remote<BoardWork> =>
  (worker ??= wrap<BoardWork>(new Worker(new URL('./boardWorker.ts', import.meta.url), { type: 'module' })));
