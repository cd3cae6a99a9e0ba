import { openTape } from '@jolly/session/tape';
import { followed } from '../followed';
import { useWatched } from '../../ui/useWatched';

/** The tape of this window. */
export const tape = openTape(() => Date.now());

const drawn = followed(tape.lines);

/** Its lines, drawn anew as they come. */
export const useTapeLines = () => useWatched(drawn);
