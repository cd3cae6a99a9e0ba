import type { Finding } from '@jolly/core/finding/finding';
import type { Machine } from '@jolly/core/machine/machine';
import { count, flag, known, moment, object, text, type TypeOf } from './shape';

/**
 * A machine as it is stored. What an older version wrote may name things that are gone; the shelf says so, and shows it
 * all the same, so that only the frame is checked here.
 */
export const machine = known<Machine>('jolly', 'id', 'name', 'board', 'kit', 'parts', 'harness');
export const finding = known<Finding>('id', 'severity', 'subject', 'what', 'why', 'evidence', 'remedies');

export const storedMachine = object({
  machine,
  /** Counted up with every save; a save must name the version it was made from. */
  version: count,
  changedAt: moment,
});
export type StoredMachine = TypeOf<typeof storedMachine>;

/** A change somebody made to a machine file, to be undone and done again. */
export const storedEdit = object({
  id: count,
  label: text,
  /** The version of the machine it led to. */
  version: count,
  at: moment,
  undone: flag,
});
export type StoredEdit = TypeOf<typeof storedEdit>;
