import { type ChildProcess, fork } from 'node:child_process';
import type { Answer, Task } from './compilerWorker.js';

type Asked<K extends Task['kind']> = Omit<Extract<Task, { kind: K }>, 'id' | 'kind'>;
type Compiled = { log: string; object: Uint8Array } | { log: string; failed: true };
type Linked = { log: string; code: Uint8Array; map: string } | { log: string; failed: true };

/** Thrown into waiting tasks when their build is cancelled. */
export class Cancelled extends Error {
  constructor() {
    super('cancelled');
  }
}

export interface Compiler {
  compile(task: Asked<'compile'>, signal: AbortSignal): Promise<Compiled>;
  link(task: Asked<'link'>, signal: AbortSignal): Promise<Linked>;
  warm(): Promise<void>;
  close(): void;
}

interface Warm {
  worker: ChildProcess;
  ready: Promise<void>;
}

/**
 * One warm process compiles; a spare stands by, because a compile that runs can only be cancelled by ending its
 * process, and warming another takes over a second.
 */
export function startCompiler(workerFile: URL): Compiler {
  let active: Warm | undefined;
  let spare: Warm | undefined;
  let closed = false;
  let nextId = 1;
  let queue: Promise<unknown> = Promise.resolve();

  /** The working process; the spare begins to warm only when the first is warm, so that it does not slow it. */
  function working(): Warm {
    if (!active) {
      active = spare ?? warmUp(workerFile);
      spare = undefined;
      void active.ready.then(() => {
        if (!closed) spare ??= warmUp(workerFile);
      });
    }
    return active;
  }

  function replaceActive(): void {
    active?.worker.kill('SIGKILL');
    active = undefined;
    if (!closed) working();
  }

  async function runNow(task: Task, signal: AbortSignal): Promise<Answer> {
    signal.throwIfAborted();
    const { worker, ready } = working();
    await ready;
    return new Promise<Answer>((resolve, reject) => {
      const done = () => {
        worker.off('message', onMessage);
        worker.off('exit', onExit);
        signal.removeEventListener('abort', onAbort);
      };
      const onMessage = (answer: Answer) => {
        if (answer.id !== task.id) return;
        done();
        resolve(answer);
      };
      const onExit = () => {
        done();
        replaceActive();
        reject(new Error('the compiler process ended by itself'));
      };
      const onAbort = () => {
        done();
        replaceActive();
        reject(new Cancelled());
      };
      worker.on('message', onMessage);
      worker.on('exit', onExit);
      signal.addEventListener('abort', onAbort);
      worker.send(task);
    });
  }

  /** One task at a time: the process is busy anyway, and a cancelled build must not take others' work with it. */
  function run(task: Task, signal: AbortSignal): Promise<Answer> {
    const turn = queue.then(() => runNow(task, signal));
    queue = turn.catch(() => undefined);
    return turn.catch((error: unknown) => {
      throw signal.aborted ? new Cancelled() : error;
    });
  }

  return {
    compile: (task, signal) => run({ kind: 'compile', id: nextId++, ...task }, signal) as Promise<Compiled>,
    link: (task, signal) => run({ kind: 'link', id: nextId++, ...task }, signal) as Promise<Linked>,
    warm: () => working().ready,
    close: () => {
      closed = true;
      for (const warm of [active, spare]) warm?.worker.kill('SIGKILL');
    },
  };
}

/**
 * The compiler is 75 MB of WebAssembly and each function of it runs briefly: optimising it while it runs costs
 * three times what it saves, so its process keeps to V8's baseline compiler (figures in docs/decisions).
 */
function warmUp(workerFile: URL): Warm {
  const worker = fork(workerFile, {
    execArgv: ['--liftoff-only'],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  });
  const ready = new Promise<void>((resolve) => {
    worker.on('message', (message) => {
      if (message === 'warm') resolve();
    });
    worker.once('exit', () => resolve());
  });
  return { worker, ready };
}
