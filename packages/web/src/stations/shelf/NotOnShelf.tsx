import { Button } from '@mantine/core';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Shelf.module.css';
import { askAnew, held } from '../../api/held';

const WORD = { archive: 'archived', bin: 'deleted' } as const;

/** Machines that were archived or deleted; each comes back whole. */
export function NotOnShelf() {
  const archive = useQuery({
    queryKey: held('archive'),
    queryFn: api.archive,
    meta: { what: 'machines that are not on the shelf' },
  });
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  const back = (id: string) =>
    act(async () => {
      await api.putAway({ id }, { at: 'shelf' });
      await askAnew(client, 'machines', 'archive', 'demo');
    });
  if (!archive.data || archive.data.length === 0) return null;
  return (
    <details className={css.begun}>
      <summary>Not on the shelf: {archive.data.length}</summary>
      <ul>
        {archive.data.map(({ id, name, place, at }) => (
          <li key={id}>
            <b>{name}</b>
            <span>
              {place}, {WORD[at]}
            </span>
            <Button
              size="compact-sm"
              variant="default"
              disabled={busy}
              aria-label={`Put ${name} back`}
              onClick={() => void back(id)}
            >
              Put it back
            </Button>
          </li>
        ))}
      </ul>
      <Refused why={refused} />
    </details>
  );
}
