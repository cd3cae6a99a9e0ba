import type { Facts } from '@jolly/core/machine/facts';
import type { Change } from '@jolly/core/ripple/change';
import { CHANGE_TYPES } from '@jolly/core/ripple/changes';
import { valueAt } from '@jolly/core/tree/path';
import { changeFields } from './changeFields';
import { UNSAID } from './fieldKinds';

/** What of a change nobody has chosen yet, by its labels. */
export const unsaidOf = (change: Change, facts: Facts): string[] =>
  changeFields(change, facts)
    .filter(({ kind, optional, path }) => kind === 'choice' && optional === undefined && valueAt(change, path) === UNSAID)
    .map(({ label }) => label); // prettier-ignore

/** What nobody has chosen yet of some changes: each as the change and its field. */
export const stillToChoose = (changes: readonly Change[], facts: Facts): string[] =>
  changes.flatMap((change) =>
    unsaidOf(change, facts).map((label) => `${label} (${CHANGE_TYPES[change.kind].title})`),
  );

/** The changes of which everything is chosen, so that they can be reckoned with. */
export const wholeChanges = (changes: readonly Change[], facts: Facts): Change[] =>
  changes.filter((change) => unsaidOf(change, facts).length === 0);
