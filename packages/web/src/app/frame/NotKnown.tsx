import { Button } from '@mantine/core';
import type { Lookup } from '../../job/lookup';
import css from './NotKnown.module.css';

/** Stands where a station would, while what it rests on is not known yet, or could not be found out. */
export function NotKnown({ lookups }: { lookups: Lookup[] }) {
  const failed = lookups.filter(({ state }) => state === 'failed');
  const list = (of: Lookup[]) => of.map(({ what }) => what).join(', ');
  if (failed.length === 0)
    return (
      <main className={css.notKnown}>
        <p role="status">
          Not known yet: {list(lookups.filter(({ state }) => state === 'pending'))}. One moment.
        </p>
      </main>
    );
  return (
    <main className={css.notKnown}>
      <div role="alert">
        <h2>Not known: {list(failed)}</h2>
        <p>This station would have to guess, so it shows nothing. {failed[0]?.because}</p>
        <Button onClick={() => failed.forEach(({ again }) => again())}>Ask again</Button>
      </div>
    </main>
  );
}
