import { whyOf } from '@jolly/core/text/whyOf';
import { runLLVM } from '@yowasp/clang';
import { Worker } from 'node:worker_threads';
import { compileArguments, compiledTo, type Effort, linkArguments, objectName } from './recipe';

export type Task =
  | { kind: 'compile'; id: number; sources: string[]; files: Record<string, string>; effort?: Effort }
  | {
      kind: 'link';
      id: number;
      objects: Record<string, Uint8Array>;
      stackBytes: number;
      asked: number;
      effort?: Effort;
    };
/** Objects by name; when it failed, those that were made before. */
export type Compiled = { id: number; log: string; objects: Record<string, Uint8Array>; failed?: true };
export type Answer =
  | Compiled
  | { id: number; log: string; code: Uint8Array; map: string; told: number[] }
  | { id: number; log: string; failed: true };

type Folder = { [name: string]: string | Uint8Array | Folder };

/** Files by path, as the tools' file system wants them: a folder is a record of its own. */
function inFolders(files: Record<string, string | Uint8Array>): Folder {
  const root: Folder = {};
  for (const [path, text] of Object.entries(files)) {
    const parts = path.split('/');
    const name = parts.pop() ?? path;
    // No path of a kit is a file and a folder at once.
    const folder = parts.reduce((at, part) => (at[part] ??= {}) as Folder, root);
    folder[name] = text;
  }
  return root;
}

/** Runs one tool to its end. The call blocks this thread; only ending the process cancels it. */
function run(
  tool: string[],
  files: Record<string, string | Uint8Array>,
): { log: string; out?: Record<string, unknown> } {
  const heard: string[] = [];
  const decoder = new TextDecoder();
  const listen = (bytes: Uint8Array | null) =>
    void (bytes && heard.push(decoder.decode(bytes, { stream: true })));
  try {
    // The library types its tree of files more widely than it answers here.
    const out = runLLVM(tool, inFolders(files), {
      synchronously: true,
      decodeASCII: false,
      stdout: listen,
      stderr: listen,
    }) as Record<string, unknown>;
    return { log: heard.join(''), out };
  } catch (error) {
    const text = heard.join('');
    return { log: text || `error: the compiler stopped: ${whyOf(error)}` };
  }
}

/** A file in the tools' file system. */
const fileIn = (root: unknown, path: string): unknown =>
  path.split('/').reduce((at, name) => (at as Folder | undefined)?.[name], root); // a file has no names in it

function compiled({ id, sources, files, effort }: Extract<Task, { kind: 'compile' }>): Compiled {
  const { log, out } = run(compileArguments(sources, effort), files);
  const objects: Record<string, Uint8Array> = {};
  for (const source of sources) {
    const made = fileIn(out, compiledTo(source, effort));
    if (made instanceof Uint8Array) objects[objectName(source)] = made;
  }
  const failed = Object.keys(objects).length < sources.length;
  return { id, log, objects, ...(failed && { failed }) };
}

function answer(task: Task): Answer {
  if (task.kind === 'compile') return compiled(task);
  const { log, out } = run(
    linkArguments(Object.keys(task.objects), task.stackBytes, task.effort),
    task.objects,
  );
  const code = out?.['lantern.wasm'];
  const map = out?.['lantern.map'];
  if (!(code instanceof Uint8Array)) return { id: task.id, log, failed: true };
  return {
    id: task.id,
    log,
    code,
    map: map instanceof Uint8Array ? new TextDecoder().decode(map) : String(map),
    told: askGuards(code, task.asked),
  };
}

/** Asks a linked image for the values its guards work with; `NaN` for each it does not tell. Its hardware is dead. */
function askGuards(code: Uint8Array, count: number): number[] {
  const dead = new Proxy({}, { get: () => () => 0 });
  const compiled = new WebAssembly.Module(code.slice());
  const imports = Object.fromEntries(
    WebAssembly.Module.imports(compiled).map(({ module }) => [module, dead]),
  );
  const { lantern_guard: guard } = new WebAssembly.Instance(compiled, imports).exports;
  return Array.from({ length: count }, (_, index) =>
    typeof guard === 'function' ? Number(guard(index)) : NaN,
  );
}

/** Tells the server; when it has ended meanwhile there is nobody to tell. */
const tell = (message: Answer | 'warm') =>
  void (process.connected && process.send?.(message, undefined, undefined, () => undefined));

process.on('message', (task: Task) => tell(answer(task)));
process.on('disconnect', () => process.exit());
// A compile that runs hears nothing, so a thread beside it looks whether the server still lives.
new Worker(
  `setInterval(() => process.ppid === ${process.ppid} || process.kill(process.pid, 'SIGKILL'), 2000)`,
  { eval: true },
).unref();
// The server may end while the compiler is still being loaded.
if (!process.connected) process.exit();

// Loading and first use of the compiler take over a second; do it before the first task comes.
await runLLVM(['clang', '--version'], {}, { fetchProgress: () => {}, stdout: () => {}, stderr: () => {} });
tell('warm');
