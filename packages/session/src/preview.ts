import type { Finding } from '@jolly/core/finding/finding';
import { applyEdits, type Edit } from '@jolly/core/machine/edit';
import type { Unresolved } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import type { Setting } from '@jolly/core/settings/setting';
import { store, type Watched } from './store';

/** What would follow from a machine as it would be. */
export interface Looked {
  settings: Setting[];
  findings: Finding[];
}

/** A change that is shown before it is made, with what would follow from it. */
export interface Preview extends Looked {
  label: string;
  edits: Edit[];
  machine: Machine;
  /** Still being typed: it is shown, and made by leaving the field. */
  draft: boolean;
}

export interface Previewing {
  preview: Watched<Preview | undefined>;
  /** Shows what would follow; a change that is only typed is a draft. One that cannot be comes back with why. */
  show(machine: Machine, label: string, edits: Edit[], draft: boolean): Promise<string | undefined>;
  drop(): void;
}

/** Shows a change before it is made. `look` computes away from the interface and may be asked faster than it answers. */
export function previewing(look: (machine: Machine) => Promise<Looked | Unresolved>): Previewing {
  const preview = store<Preview | undefined>(undefined);
  let turn = 0;
  return {
    preview,
    async show(machine, label, edits, draft) {
      const mine = (turn += 1);
      const after = applyEdits(machine, edits);
      const found = await look(after);
      // Typing goes on while the worker computes: only the newest counts.
      if (mine !== turn) return undefined;
      if ('problems' in found)
        return `It cannot be: ${found.problems.map(({ path, message }) => `${path}: ${message}`).join('; ')}`;
      preview.set({ label, edits, machine: after, draft, ...found });
      return undefined;
    },
    drop() {
      turn += 1;
      preview.set(undefined);
    },
  };
}
