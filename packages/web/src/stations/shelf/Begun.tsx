import type { StoredBegunBoard } from '@jolly/contract/endpoints/boardTypes';
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
import { held } from '../../api/held';

/** Machines and boards that are being described, to be gone on with. */
export function Begun() {
  const begun = useQuery({
    queryKey: held('descriptions'),
    queryFn: api.descriptions,
    meta: { what: 'machines being described' },
  });
  const boards = useQuery({
    queryKey: held('begun-boards'),
    queryFn: api.begunBoards,
    meta: { what: 'boards being described' },
  });
  if ((begun.data?.length ?? 0) + (boards.data?.length ?? 0) === 0) return null;
  return (
    <section className={css.begun} aria-labelledby="begun">
      <h2 id="begun">Being described</h2>
      <ul>
        {begun.data?.map((stored) => (
          <OneBegun key={stored.id} stored={stored} />
        ))}
        {boards.data?.map((stored) => (
          <OneBoard key={stored.id} stored={stored} />
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
  const { answers } = stored.description;
  const all = asked(answers);
  const said = all.filter(({ id }) => answers[id] !== undefined).length;
  const open = openOf(stored.description).length;
  const name = nameOf(stored);
  return (
    <li>
      <Link to={`/describe/${stored.id}`}>{name}</Link>
      <span>
        {said} of {all.length} answered, {open === 0 ? 'it can be a machine now' : `${open} still wanted`};
        last {whenOf(stored.changedAt)}
      </span>
      <ThrowAway
        name={name}
        lost={`Its ${said} answers are lost.`}
        list="descriptions"
        drop={() => api.dropDescription({ id: stored.id })}
      />
    </li>
  );
}

function OneBoard({ stored }: { stored: StoredBegunBoard }) {
  const { board, photo } = stored.begun;
  const name = `Board ${board.name ?? 'without a name yet'}`;
  const headers = `${board.headers.length} headers`;
  return (
    <li>
      <Link to={`/boards/${stored.id}`}>{name}</Link>
      <span>
        {headers}
        {photo && ', over a photo'}; last {whenOf(stored.changedAt)}
      </span>
      <ThrowAway
        name={name}
        lost={`What was said of it${photo ? ' and its photo are' : ' is'} lost.`}
        list="begun-boards"
        drop={() => api.dropBegunBoard({ id: stored.id })}
      />
    </li>
  );
}

/** Asks once more, naming what is lost. */
function ThrowAway({
  name,
  lost,
  list,
  drop,
}: {
  name: string;
  lost: string;
  list: string;
  drop: () => Promise<unknown>;
}) {
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  const [sure, setSure] = useState(false);
  const throwIt = () =>
    act(async () => {
      await drop();
      await client.invalidateQueries({ queryKey: [list] });
    });
  if (!sure)
    return (
      <Button
        size="compact-sm"
        variant="subtle"
        aria-label={`Throw away: ${name}`}
        onClick={() => setSure(true)}
      >
        Throw away …
      </Button>
    );
  return (
    <>
      <span>{lost}</span>
      <Button size="compact-sm" color="red" disabled={busy} onClick={() => void throwIt()}>
        Throw it away
      </Button>
      <Button size="compact-sm" variant="default" onClick={() => setSure(false)}>
        Keep it
      </Button>
      <Refused why={refused} />
    </>
  ); // prettier-ignore
}
