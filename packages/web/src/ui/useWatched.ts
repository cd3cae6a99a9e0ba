import type { Watched } from '@jolly/session/store';
import { useSyncExternalStore } from 'react';

/** A value of the session, drawn anew whenever it changes. */
export const useWatched = <T>(watched: Watched<T>): T => useSyncExternalStore(watched.listen, watched.now);
