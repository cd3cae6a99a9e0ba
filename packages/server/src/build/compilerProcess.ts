import { type ChildProcess, fork } from 'node:child_process';
import type { Answer, Task } from './compilerWorker';

/** How a task ended that brought no answer. */
export type NoAnswer = { ended: 'cancelled' } | { ended: 'too long' } | { ended: 'died'; how: string };

/** A process that holds the compiler warm and does one task at a time. */
export interface CompilerProcess {
  /** Whether it can take a task; false once it has ended. Resolves when it is warm, or has ended before. */
  warm: Promise<boolean>;
  alive(): boolean;
  /** Does a task. Ends the process when the signal aborts or the time is over: nothing else stops a compiler. */
  run(task: Task, signal: AbortSignal, seconds: number): Promise<Answer | NoAnswer>;
  end(): void;
}

/**
 * The compiler is 75 MB of WebAssembly and each function of it runs briefly: optimising it while it runs costs three
 * times what it saves, so its process keeps to V8's baseline compiler, and looks at a function when it is first called
 * (figures in docs/decisions). No memory of WebAssembly in it may grow beyond `megabytes`. `onEnd` is told when it ends
 * without having been asked to.
 */
export function startCompilerProcess(
  file: URL,
  megabytes: number,
  onEnd: (how: string) => void,
): CompilerProcess {
  const worker = fork(file, {
    execArgv: ['--liftoff-only', '--wasm-lazy-validation', `--wasm-max-mem-pages=${megabytes * 16}`],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    // A group of its own: Ctrl-C is for the server, which ends its compilers when its builds have been told.
    detached: true,
  });
  let alive = true;
  let asked = false;
  const over = new Promise<string>((resolve) => {
    const ended = (how: string) => {
      if (!alive) return;
      alive = false;
      resolve(how);
      if (!asked) onEnd(how);
    };
    worker.once('exit', (code, signal) => ended(signal ?? `exit code ${code}`));
    worker.once('error', (error) => ended(error.message));
  });
  const end = () => {
    asked = true;
    worker.kill('SIGKILL');
  };
  return {
    warm: Promise.race([
      messageOf(worker, (message) => message === 'warm').then(() => true),
      over.then(() => false),
    ]),
    alive: () => alive,
    end,
    async run(task, signal, seconds) {
      const stop = new AbortController();
      // Only our own worker writes on this channel.
      const answer = messageOf(worker, (message) => (message as Answer).id === task.id) as Promise<Answer>;
      const because = <T extends NoAnswer>(happens: (then: () => void) => void, no: T): Promise<T> =>
        new Promise((resolve) => happens(() => resolve(no)));
      if (signal.aborted) return { ended: 'cancelled' };
      if (alive) worker.send(task, () => undefined);
      const result = await Promise.race([
        answer,
        over.then((how): NoAnswer => ({ ended: 'died', how })),
        because((then) => signal.addEventListener('abort', then, { once: true, signal: stop.signal }), {
          ended: 'cancelled',
        }),
        because(
          (then) => {
            const timer = setTimeout(then, seconds * 1000);
            stop.signal.addEventListener('abort', () => clearTimeout(timer));
          },
          { ended: 'too long' },
        ),
      ]);
      stop.abort();
      if ('ended' in result && alive) end();
      return result;
    },
  };
}

function messageOf(worker: ChildProcess, wanted: (message: unknown) => boolean): Promise<unknown> {
  return new Promise((resolve) => {
    const listen = (message: unknown) => {
      if (!wanted(message)) return;
      worker.off('message', listen);
      resolve(message);
    };
    worker.on('message', listen);
  });
}
