import { readNow } from '@jolly/core/kit/kit';
import type { Workbench } from '../../workbench/Workbench';

/** Never offered to save room: a guard, and what a part on the machine needs. */
const KEPT = /^guard\.|^bed\.heated$/;

/** Features that are on, that this version of the kit builds in, and that can be done without, with what is lost. */
export function switchable({ kit, settings }: Workbench): { key: string; label: string; without: string }[] {
  return readNow(kit).flatMap(({ key, label, kind, without }) =>
    kind === 'flag' && without && !KEPT.test(key) && settings.get(key)?.value === true
      ? [{ key, label, without }]
      : [],
  );
}
