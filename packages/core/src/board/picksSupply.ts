import type { Board } from './board';

/** Whether a jumper of a board picks what feeds its logic: USB or the supply. */
export const picksSupply = ({ jumpers = [] }: Pick<Board, 'jumpers'>): boolean =>
  jumpers.some(({ sets }) => sets === 'usb power');
