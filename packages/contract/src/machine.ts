import type { Finding } from '@jolly/core/finding/finding';
import { type Machine, machineSchema } from '@jolly/core/machine/machine';
import { component, count, flag, known, moment, object, of, oneOf, text, type TypeOf } from './shape';

/**
 * A machine as it is stored. What an older version wrote may name things that are gone; the shelf says so, and shows it
 * all the same, so that only the frame is checked here.
 */
export const machine = component(
  'Machine',
  known<Machine>('jolly', 'id', 'name', 'board', 'kit', 'parts', 'harness'),
);
/** A machine that is sent here: every field of it is checked. */
export const sentMachine = component('Machine', of<Machine>(machineSchema));
export const finding = known<Finding>('id', 'severity', 'subject', 'what', 'why', 'evidence', 'remedies');

/** Where a machine is: on the shelf, archived, or deleted and not yet replaced. */
export const place = oneOf('shelf', 'archive', 'bin');
export type Place = TypeOf<typeof place>;

export const storedMachine = object({
  machine,
  /** Counted up with every save; a save must name the version it was made from. */
  version: count,
  changedAt: moment,
  at: place,
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
