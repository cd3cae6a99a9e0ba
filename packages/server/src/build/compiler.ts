import { type CompilerProcess, startCompilerProcess } from './compilerProcess';
import type { Answer, Compiled, Task } from './compilerWorker';

type Asked<K extends Task['kind']> = Omit<Extract<Task, { kind: K }>, 'id' | 'kind'>;
type Failed = { log: string; failed: true };
type Linked = { log: string; code: Uint8Array; map: string; told: number[] } | Failed;

/** Thrown into waiting tasks when their build is cancelled. */
export class Cancelled extends Error {
  constructor() {
    super('cancelled');
  }
}

/** Whose work a task is, and what ends it early. One owner never holds more than one process. */
export interface Turn {
  owner: string;
  signal: AbortSignal;
}

export interface Compiler {
  /** Several sources at once take little longer than one; how they failed is told of all of them together. */
  compile(task: Asked<'compile'>, turn: Turn): Promise<Omit<Compiled, 'id'>>;
  link(task: Asked<'link'>, turn: Turn): Promise<Linked>;
  /** Resolves when the first process is warm. */
  warm(): Promise<void>;
  close(): void;
}

/** What one compile may take: some ten times what the slowest source of a kit takes on a slow computer. */
export const COMPILE_LIMITS = { seconds: 30, megabytes: 512 };
/** As the compiler says it before it gives up. */
const OUT_OF_MEMORY = /LLVM ERROR: out of memory/;

/** One works while the other stands by: a compile can only be ended with its process, and warming takes a second. */
const PROCESSES = 2;

interface Waiting extends Turn {
  task: Task;
  /** Aborted when it waits no more. */
  waited: AbortController;
  settle: (answer: Promise<Answer>) => void;
}
interface Lane {
  process?: CompilerProcess;
  busyFor?: string;
}

/**
 * Two warm processes compile. A process that dies is replaced and the task it had is done once more; one that takes
 * too long or too much memory is ended and its task fails in words. Work of one owner never holds up another's.
 */
export function startCompiler(workerFile: URL, limits = COMPILE_LIMITS): Compiler {
  const firstLane: Lane = {};
  const lanes: Lane[] = [firstLane, ...Array.from({ length: PROCESSES - 1 }, () => ({}))];
  let waiting: Waiting[] = [];
  let closed = false;
  let nextId = 1;

  function processOf(lane: Lane): CompilerProcess {
    if (lane.process?.alive()) return lane.process;
    return (lane.process = startCompilerProcess(workerFile, limits.megabytes, (how) => {
      if (!closed) console.error(`a compiler process ended by itself (${how}); another takes its place`);
    }));
  }

  /** The second warms when the first has worked: many a server is asked for no image, and it would only slow the first. */
  async function standBy(): Promise<void> {
    for (const lane of lanes) {
      if (closed) return;
      await processOf(lane).warm;
    }
  }

  function dispatch(): void {
    const free = lanes.filter((lane) => lane.busyFor === undefined);
    const lane = free.find(({ process }) => process?.alive()) ?? free[0];
    const next = waiting.find(({ owner }) => !lanes.some(({ busyFor }) => busyFor === owner));
    if (!lane || !next) return;
    waiting = waiting.filter((entry) => entry !== next);
    next.waited.abort();
    lane.busyFor = next.owner;
    const answer = perform(lane, next).finally(() => {
      delete lane.busyFor;
      if (!closed) void standBy();
      dispatch();
    });
    next.settle(answer);
    dispatch();
  }

  async function perform(lane: Lane, { task, signal }: Waiting): Promise<Answer> {
    let how = '';
    for (let attempt = 1; attempt <= 2; attempt += 1) {
      if (signal.aborted || closed) throw new Cancelled();
      const process = processOf(lane);
      await process.warm;
      const result = await process.run(task, signal, limits.seconds);
      if ('failed' in result && OUT_OF_MEMORY.test(result.log)) {
        process.end();
        return refused(task, `it wanted more than ${limits.megabytes} MB of memory`);
      }
      if (!('ended' in result)) return result;
      if (result.ended === 'cancelled' || closed) throw new Cancelled();
      if (result.ended === 'too long')
        return refused(task, `it took longer than ${limits.seconds} s and was ended`);
      how = result.how;
    }
    return refused(task, `the compiler process was ended twice (${how}), perhaps for want of memory`);
  }

  function ask(task: Task, { owner, signal }: Turn): Promise<Answer> {
    return new Promise<Answer>((resolve, reject) => {
      const waited = new AbortController();
      const entry: Waiting = { task, owner, signal, waited, settle: resolve };
      const giveUp = () => {
        waiting = waiting.filter((other) => other !== entry);
        reject(new Cancelled());
      };
      signal.addEventListener('abort', giveUp, { once: true, signal: waited.signal });
      if (signal.aborted || closed) return reject(new Cancelled());
      waiting.push(entry);
      dispatch();
    });
  }

  return {
    // A compiler process answers what it was asked.
    compile: (task, turn) => ask({ kind: 'compile', id: nextId++, ...task }, turn) as Promise<Compiled>,
    // as above
    link: (task, turn) => ask({ kind: 'link', id: nextId++, ...task }, turn) as Promise<Linked>,
    async warm() {
      await processOf(firstLane).warm;
    },
    close() {
      closed = true;
      for (const { process } of lanes) process?.end();
    },
  };
}

function refused(task: Task, why: string): Answer {
  const what = task.kind === 'compile' ? `compiling ${task.sources.join(', ')}` : 'linking';
  return { id: task.id, failed: true, log: `error: ${what}: ${why}`, objects: {} };
}
