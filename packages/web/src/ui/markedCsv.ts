import { ownSwitch } from './ownSwitch';

/** Whether CSV begins with a byte-order mark: without it some table programs show µ and ° as two other letters. */
export const markedCsv = ownSwitch('csv:mark', false);
