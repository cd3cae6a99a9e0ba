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

/** How often it is looked for while it is gone, and looked after while it is here. */
const SEEK_MS = 1000;
const WATCH_MS = 10_000;

let presence: Presence = { here: true };
let timer: ReturnType<typeof setTimeout> | undefined;
const listeners = new Set<() => void>();

function become(next: Presence): void {
  if (next.here === presence.here) return;
  presence = next;
  for (const listen of listeners) listen();
  watch();
}

export const currentPresence = (): Presence => presence;

export function onPresence(listen: () => void): () => void {
  listeners.add(listen);
  if (!timer) watch();
  return () => listeners.delete(listen);
}

function watch(): void {
  clearTimeout(timer);
  timer = setTimeout(
    () => {
      const asked = document.visibilityState === 'visible' ? reach('/api/health') : Promise.resolve();
      void asked.catch(() => undefined).finally(watch);
    },
    presence.here ? WATCH_MS : SEEK_MS,
  );
}

/** Statuses of a server, or of what stands before it, that cannot serve yet or any more. */
const NOT_SERVING = new Set([502, 503, 504]);

/**
 * Sends a request and learns from it whether the server answers.
 * @throws {ServerGone} when it does not
 */
export async function reach(path: string, options?: RequestInit): Promise<Response> {
  const reply = await fetch(path, options).catch(() => undefined);
  if (!reply || NOT_SERVING.has(reply.status)) {
    become({ here: false, since: Date.now() });
    throw new ServerGone();
  }
  become({ here: true });
  return reply;
}
