import type { GcodeLine } from './gcodeLine';

/** Commands before which all moves that were sent come to their end; others act when they are read, ahead of the moves. */
export const WAITING = ['G4', 'G28', 'M84', 'M400', 'move by', 'T0', 'T1'] as const;

export const waitsForMoves = ({ command }: GcodeLine): boolean => WAITING.some((one) => one === command);
