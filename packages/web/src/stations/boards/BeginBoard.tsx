import { Button, NativeSelect } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { askedCatalogue } from '../../api/asked';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { askAnew } from '../../api/held';

/** Begins to describe a board: from nothing, from one like it, or as a further revision of one. */
export function BeginBoard({
  words,
  back,
}: {
  words: string;
  /** Where it is wanted; the description leads back there. */
  back?: string;
}) {
  const [asking, setAsking] = useState(false);
  const [from, setFrom] = useState('nothing');
  const catalogue = useQuery(askedCatalogue);
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const begin = () =>
    act(async () => {
      const [how = '', id = '', revision = ''] = from.split(' ');
      const begun = await api.beginBoard(
        how === 'copy' || how === 'revision' ? { from: how, id, revision } : { from: 'nothing' },
      );
      await askAnew(client, 'begun-boards');
      void navigate(`/boards/${begun.id}${back === undefined ? '' : `?for=${encodeURIComponent(back)}`}`);
    });
  if (!asking)
    return (
      <Button size="xs" variant="default" onClick={() => setAsking(true)}>
        {words}
      </Button>
    );
  const boards = catalogue.data?.boards ?? [];
  return (
    <div className="row" role="group" aria-label="Describe a board">
      <NativeSelect
        size="xs"
        label="Begin from"
        value={from}
        onChange={(event) => setFrom(event.currentTarget.value)}
        data={[
          { value: 'nothing', label: 'nothing, a photo or a file' },
          ...boards.map(({ id, revision, name }) => ({
            value: `revision ${id} ${revision}`,
            label: `${name}: another revision, like ${revision}`,
          })),
          ...boards.map(({ id, revision, name }) => ({
            value: `copy ${id} ${revision}`,
            label: `a copy of ${name} ${revision}, under another name`,
          })),
        ]}
      />
      <Button size="xs" disabled={busy} onClick={() => void begin()}>
        Begin
      </Button>
      <Button size="xs" variant="subtle" onClick={() => setAsking(false)}>
        Leave it
      </Button>
      <Refused why={refused} />
    </div>
  );
}
