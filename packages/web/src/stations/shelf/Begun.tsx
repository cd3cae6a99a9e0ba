import type { StoredDescription } from '@jolly/contract/endpoints/descriptions';
import { asked, openOf } from '@jolly/core/describe/description';
import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { whenOf } from '../../ui/when';
import css from './Shelf.module.css';

/** Machines that are being described, to be gone on with. */
export function Begun() {
  const begun = useQuery({ queryKey: ['descriptions'], queryFn: api.descriptions });
  if (!begun.data || begun.data.length === 0) return null;
  return (
    <section className={css.begun} aria-labelledby="begun">
      <h2 id="begun">Being described</h2>
      <ul>
        {begun.data.map((stored) => (
          <OneBegun key={stored.id} stored={stored} />
        ))}
      </ul>
    </section>
  );
}

const nameOf = ({ description }: StoredDescription): string => {
  const name = description.answers['name'];
  return typeof name === 'string' ? name : 'A machine without a name yet';
};

function OneBegun({ stored }: { stored: StoredDescription }) {
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  const [sure, setSure] = useState(false);
  const { answers } = stored.description;
  const all = asked(answers);
  const said = all.filter(({ id }) => answers[id] !== undefined).length;
  const open = openOf(stored.description).length;
  const name = nameOf(stored);
  const drop = () =>
    act(async () => {
      await api.dropDescription({ id: stored.id });
      await client.invalidateQueries({ queryKey: ['descriptions'] });
    });
  return (
    <li>
      <Link to={`/describe/${stored.id}`}>{name}</Link>
      <span>
        {said} of {all.length} answered, {open === 0 ? 'it can be a machine now' : `${open} still wanted`};
        last {whenOf(stored.changedAt)}
      </span>
      {sure ? (
        <>
          <span>Its {said} answers are lost.</span>
          <Button size="compact-sm" color="red" disabled={busy} onClick={() => void drop()}>
            Throw it away
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => setSure(false)}>
            Keep it
          </Button>
        </>
      ) : (
        <Button
          size="compact-sm"
          variant="subtle"
          aria-label={`Throw away: ${name}`}
          onClick={() => setSure(true)}
        >
          Throw away …
        </Button>
      )}
      <Refused why={refused} />
    </li>
  );
}
