import { store, type Watched } from '@jolly/session/store';

export interface OwnSwitch {
  on: Watched<boolean>;
  set(next: boolean): void;
}

/** A choice of this browser, kept in it under a name. */
export function ownSwitch(name: string, unlessSaid: boolean): OwnSwitch {
  const on = store((localStorage.getItem(name) ?? (unlessSaid ? 'on' : 'off')) === 'on');
  return {
    on,
    set(next) {
      localStorage.setItem(name, next ? 'on' : 'off');
      on.set(next);
    },
  };
}
