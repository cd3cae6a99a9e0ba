import { Button } from '@mantine/core';
import { useBench, usePowered } from '../../bench/BenchProvider';
import css from './Told.module.css';

/** A board that is not heard any more says so at every station, and to be read from afar: what it was told last goes on. */
export function NotHeard({ far = false }: { far?: boolean }) {
  const bench = useBench();
  const gone = usePowered(({ mute }) => mute === 'any more');
  if (!gone) return null;
  return (
    <div className={css.told} data-tone="alarm" data-far={far} role="alert">
      <span>
        <b>The board is not heard any more.</b> What heats may go on heating, and what moves, moving; Stop
        does not reach it. Switch the power off, then look at the cable and its plugs.
      </span>
      <Button
        size={far ? 'lg' : 'compact-xs'}
        variant="filled"
        color="vermilion"
        onClick={() => bench.powerOff()}
        // At arm’s length space and enter turn pages.
        onKeyDown={(event) => event.stopPropagation()}
      >
        Switch the power off
      </Button>
    </div>
  );
}
