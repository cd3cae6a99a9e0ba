import type { Watched } from '@jolly/session/store';

/** So long a drawing stands at least, in ms: as long as a pulse of the bench. */
const STANDS_MS = 40;

/**
 * A value of the session that changes many times a second, told for drawing. The first change after a pause is told at
 * once, those behind it together: drawing at every change would leave no time for the person.
 */
export function followed<T>(watched: Watched<T>): Watched<T> {
  const listeners = new Set<() => void>();
  let told = watched.now();
  let resting: ReturnType<typeof setTimeout> | undefined;
  let end: (() => void) | undefined;
  const tell = () => {
    if (resting !== undefined || Object.is(told, watched.now())) return;
    told = watched.now();
    resting = setTimeout(() => {
      resting = undefined;
      tell();
    }, STANDS_MS);
    for (const listener of [...listeners]) listener();
  };
  return {
    // Where nobody listens, nothing is held back.
    now: () => (end ? told : watched.now()),
    listen(listener) {
      listeners.add(listener);
      if (!end) {
        told = watched.now();
        end = watched.listen(tell);
      }
      return () => {
        listeners.delete(listener);
        if (listeners.size > 0) return;
        end?.();
        end = undefined;
        clearTimeout(resting);
        resting = undefined;
      };
    },
  };
}
