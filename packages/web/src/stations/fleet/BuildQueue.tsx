import { Button } from '@mantine/core';
import type { Plate } from '@jolly/contract/endpoints/machines';
import { heldBack } from '@jolly/core/fleet/policy';
import { buildQueue, type Queued } from '@jolly/session/buildQueue';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import { api } from '../../api/api';
import { useWatched } from '../../ui/useWatched';
import css from './Fleet.module.css';
import { askAnew } from '../../api/held';

const WORDS: Readonly<Record<Queued['state'], string>> = {
  waits: 'waits its turn',
  builds: 'is being built',
  done: 'is built',
  failed: 'was not built',
  dropped: 'was taken out of the queue',
};
const POLL_MS = 400;

/** A build for each of several machines, one behind the other. */
export function BuildQueue({ plates }: { plates: readonly Plate[] }) {
  const client = useQueryClient();
  const queue = useMemo(
    () =>
      buildQueue({
        client: api,
        moment: () => new Promise((resolve) => setTimeout(resolve, POLL_MS)),
        built: () => void askAnew(client, 'machines'),
      }),
    [client],
  );
  const rows = useWatched(queue.rows);
  // Whoever leaves the page leaves what waits; what is being built is built.
  useEffect(() => () => queue.drop(), [queue]);
  const going = rows.some(({ state }) => state === 'waits' || state === 'builds');
  const stays = plates.flatMap(({ machine, policy = null }) => {
    const why = policy === 'stay' ? heldBack(policy, 'part') : undefined;
    return why === undefined ? [] : [{ id: machine.id, name: machine.name, why }];
  });
  const takes = plates.filter(({ machine }) => !stays.some(({ id }) => id === machine.id));
  return (
    <section className={css.part} aria-label="Builds one behind the other">
      <h2>Build them, one behind the other</h2>
      <div className="row">
        <Button
          size="xs"
          variant="default"
          disabled={going || takes.length === 0}
          onClick={() => void queue.run(takes.map(({ machine: { id, name } }) => ({ id, name })))}
        >
          {`Build ${takes.map(({ machine }) => machine.name).join(', ') || 'none of them'}`}
        </Button>
        {going && (
          <Button size="xs" variant="subtle" onClick={queue.drop}>
            Take the rest out of the queue
          </Button>
        )}
      </div>
      {stays.map(({ id, name, why }) => (
        <p key={id} className="soft">{`${name}: ${why}`}</p>
      ))}
      {rows.length > 0 && (
        <ol className={css.tried} aria-live="polite">
          {rows.map(({ id, name, state, why }) => (
            <li key={id} data-out={state === 'failed' || state === 'dropped'}>
              <b>{name}</b> {WORDS[state]}
              {why && `: ${why}`} {state === 'done' && <Link to={`/machines/${id}/flash`}>Flash it</Link>}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
