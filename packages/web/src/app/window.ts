import { openWindow } from '@jolly/session/window';

/** What this browser window works with. */
export const appWindow = openWindow({
  fetch: (path, options) => fetch(path, options),
  visible: () => document.visibilityState === 'visible',
  clock: () => Date.now(),
  later: (ms, run) => {
    const timer = setTimeout(run, ms);
    return () => clearTimeout(timer);
  },
  storage: sessionStorage,
});
