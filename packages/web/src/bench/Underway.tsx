import { ageS, type BoardReadings, underway, underwaySpoken } from '@jolly/core/bringup/boardReading';
import { useNow } from '../ui/useNow';
import { isAwake, isStopped } from '@jolly/session/power';
import { usePowered } from './BenchProvider';
import css from './Underway.module.css';

/** Seconds since the newest reading, when even that is too old; undefined while something is fresh. */
function silentForS(readings: BoardReadings, now: number): number | undefined {
  const ages = Object.values(readings).map((reading) => ageS(reading, now));
  const known = ages.filter((age) => age !== undefined);
  return known.length === 0 || known.length < ages.length ? undefined : Math.min(...known);
}

/** What is hot or moving now, at the machine's plate on every station. */
export function Underway() {
  const readings = usePowered((now) => now.readings);
  const on = usePowered(isAwake);
  const stopped = usePowered(isStopped);
  const now = useNow(on);
  if (!on) return null;
  const silent = silentForS(readings, now);
  const told = underway(readings);
  const stop = stopped ? ['stopped'] : [];
  const text = [...stop, ...told].join(' · ');
  const spoken = [
    ...stop,
    ...underwaySpoken(readings),
    ...(silent === undefined ? [] : ['not heard any more']),
  ];
  return (
    <>
      {(text !== '' || silent !== undefined) && (
        <p className={css.underway} data-old={silent !== undefined} title={text}>
          {text}
          {silent !== undefined && <> not heard for {silent} s</>}
        </p>
      )}
      <span className="unseen" role="status">
        {spoken.join(', ')}
      </span>
    </>
  );
}
