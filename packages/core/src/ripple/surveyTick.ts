import { textSum } from '../bytes/textSum';
import { canonicalJson } from '../tree/canonicalJson';
import type { Change } from './change';
import type { Need } from './preparation';

/**
 * The id under which a step of the survey is ticked: for the changes it was looked at with. With others the list, the
 * proposals or what goes may be others too, and it is looked at again.
 */
export const surveyTick = (step: 'report' | 'losses' | 'ready', changes: readonly Change[]): string =>
  `survey:${step}#${textSum(canonicalJson(changes))}`;

/** The id under which something that must lie on the table is ticked: another count of it is another thing to fetch. */
export const needTick = ({ id, what, count }: Pick<Need, 'id' | 'what' | 'count'>): string =>
  `survey:${id}#${textSum(`${count ?? ''} ${what}`)}`;
