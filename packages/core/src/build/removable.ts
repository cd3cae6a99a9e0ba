import { type Kit, readNow } from '../kit/kit';
import type { Settings } from '../settings/setting';

/** Never left out to save room: a guard, and what a part on the machine needs. */
const KEPT = /^guard\.|^bed\.heated$/;

/** A feature that is on and can be done without. */
export interface Removable {
  key: string;
  label: string;
  /** What is lost with it, in use. */
  without: string;
}

/** Features that are on, that this version of the kit builds in, and that can be done without, with what is lost. */
export function removable({ kit, settings }: { kit: Kit; settings: Settings }): Removable[] {
  return readNow(kit).flatMap(({ key, label, kind, without }) =>
    kind === 'flag' && without && !KEPT.test(key) && settings.get(key)?.value === true
      ? [{ key, label, without }]
      : [],
  );
}
