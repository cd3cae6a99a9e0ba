import { store } from '@jolly/session/store';

const NAME = 'keys:single';

/** Whether single keys do something: whoever speaks to the window, or whose hand shakes, switches them off. Kept in this browser. */
const on = store(localStorage.getItem(NAME) !== 'off');

export const singleKeys = {
  on,
  set(next: boolean): void {
    localStorage.setItem(NAME, next ? 'on' : 'off');
    on.set(next);
  },
};
