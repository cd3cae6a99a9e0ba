import type { Send } from '@jolly/contract/client';
import { Refusal } from '@jolly/contract/refusal';
import { store, type Watched } from './store';

/** Whether the server answers, and since when it does not. */
export type Presence = { here: true } | { here: false; since: number };

/**
 * No answer came: the server is not running, not reachable, or just starting or ending. The request may have arrived
 * all the same.
 */
export class ServerGone extends Error {
  constructor() {
    super('The server does not answer. Look when it is back whether this arrived, and do it again if not.');
  }
}

/** A server that is gone, or in trouble of its own (a full disk), has not judged what was sent: it goes on waiting. */
export const isUnjudged = (problem: unknown): boolean =>
  problem instanceof ServerGone || (problem instanceof Refusal && problem.status >= 500);

/** How often it is looked for while it is gone, and looked after while it is here, in milliseconds. */
const SEEK_MS = 1000;
const WATCH_MS = 10_000;

/** Statuses of a server, or of what stands before it, that cannot serve yet or any more. */
const NOT_SERVING = new Set([502, 503, 504]);

export interface PresencePorts {
  fetch: Send;
  /** Whether anybody looks: a hidden window asks for nothing. */
  visible: () => boolean;
  clock: () => number;
  /** Calls back once after so many milliseconds; the returned function takes that back. */
  later: (ms: number, run: () => void) => () => void;
}

export interface ServerWatch {
  presence: Watched<Presence>;
  /**
   * Sends a request and learns from it whether the server answers.
   * @throws {ServerGone} when it does not
   */
  reach: Send;
  /** Begins to look after the server; the returned function ends it. */
  watch(): () => void;
}

/** Knows from every request, and from asking in between, whether the server is there. */
export function serverWatch({ fetch, visible, clock, later }: PresencePorts): ServerWatch {
  const presence = store<Presence>({ here: true });
  let watching = false;
  let cancel: (() => void) | undefined;

  const reach: Send = async (path, options) => {
    const reply = await fetch(path, options).catch(() => undefined);
    if (!reply || NOT_SERVING.has(reply.status)) {
      become({ here: false, since: clock() });
      throw new ServerGone();
    }
    become({ here: true });
    return reply;
  };

  function become(next: Presence): void {
    if (next.here === presence.now().here) return;
    presence.set(next);
    if (watching) plan();
  }

  function plan(): void {
    cancel?.();
    cancel = later(presence.now().here ? WATCH_MS : SEEK_MS, () => {
      const asked = visible() ? reach('/api/health', {}) : Promise.resolve();
      void asked.catch(() => undefined).finally(() => watching && plan());
    });
  }

  return {
    presence,
    reach,
    watch() {
      watching = true;
      plan();
      return () => {
        watching = false;
        cancel?.();
      };
    },
  };
}
