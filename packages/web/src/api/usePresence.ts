import { useSyncExternalStore } from 'react';
import { currentPresence, onPresence, type Presence } from './presence';

/** Whether the server answers, kept fresh. */
export const usePresence = (): Presence => useSyncExternalStore(onPresence, currentPresence);
