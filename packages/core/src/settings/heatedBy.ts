import { type Heated, SECOND_HOTEND, type Warmed } from '../machine/machine';

/** Whose limits, power cap and guard a body is heated by: a second hot end has those of the first. */
export const heatedBy = (body: Warmed): Heated | 'chamber' => (body === SECOND_HOTEND ? 'hotend' : body);
