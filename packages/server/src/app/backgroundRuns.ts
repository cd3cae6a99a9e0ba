import { Refusal } from '@jolly/contract/refusal';

/** How far a run is. */
export interface RunProgress {
  done: number;
  total: number;
  doing: string;
  /** What was said on the way. */
  log?: string;
}
export type RunNews<End> = { kind: 'progress'; progress: RunProgress } | { kind: 'ended'; end: End };

/** What a run works with. */
export interface RunTools {
  signal: AbortSignal;
  progress: (progress: RunProgress) => void;
}

/** Work in the background, one run for each key, that can be followed and cancelled. */
export interface BackgroundRuns<End> {
  isRunning(key: string): boolean;
  /** Begins a run; `work` answers what it came to, and never throws. @throws {Refusal} ending */
  begin(key: string, work: (tools: RunTools) => Promise<End>): void;
  /** Ends a run; resolves when it has. @throws {Refusal} not-running */
  cancel(key: string): Promise<void>;
  /** Tells what has happened so far, then what happens, also of a run that begins later; the returned function ends it. */
  follow(key: string, listen: (news: RunNews<End>) => void): () => void;
  /** Ends what runs and takes nothing more: the server is about to end. */
  interrupt(): Promise<void>;
  isEnding(): boolean;
}

interface Running<End> {
  abort: AbortController;
  heard: RunNews<End>[];
  finished: Promise<void>;
}

export function backgroundRuns<End>(): BackgroundRuns<End> {
  const running = new Map<string, Running<End>>();
  const listeners = new Map<string, Set<(news: RunNews<End>) => void>>();
  let ending = false;
  return {
    isRunning: (key) => running.has(key),
    isEnding: () => ending,
    begin(key, work) {
      if (ending) throw new Refusal('ending', 'the server is about to end');
      const entry: Running<End> = { abort: new AbortController(), heard: [], finished: Promise.resolve() };
      const say = (news: RunNews<End>) => {
        entry.heard.push(news);
        for (const listener of listeners.get(key) ?? []) listener(news);
      };
      running.set(key, entry);
      entry.finished = work({
        signal: entry.abort.signal,
        progress: (progress) => say({ kind: 'progress', progress }),
      }).then((end) => {
        running.delete(key);
        say({ kind: 'ended', end });
      });
    },
    async cancel(key) {
      const entry = running.get(key);
      if (!entry) throw new Refusal('not-running', 'this is not running any more');
      entry.abort.abort();
      await entry.finished;
    },
    follow(key, listen) {
      running.get(key)?.heard.forEach(listen);
      const all = listeners.get(key) ?? new Set();
      listeners.set(key, all.add(listen));
      return () => {
        all.delete(listen);
        if (all.size === 0) listeners.delete(key);
      };
    },
    async interrupt() {
      ending = true;
      for (const { abort } of running.values()) abort.abort();
      await Promise.all([...running.values()].map(({ finished }) => finished));
    },
  };
}
