import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { api } from '../../api/api';
import { askAnew } from '../../api/held';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Told.module.css';

const WORDS = { archive: 'is archived', bin: 'was deleted' } as const;

/** A machine that was archived or deleted, in another window or before its address was opened, says so at every station. */
export function PutAway() {
  const { at, machine } = useWorkbench();
  const client = useQueryClient();
  const { busy, refused, act } = useAct();
  if (at === 'shelf') return null;
  const putBack = () =>
    act(async () => {
      await api.putAway({ id: machine.id }, { at: 'shelf' });
      await askAnew(client, 'machines', 'archive', 'demo');
    });
  return (
    <div className={css.told} role="status">
      <span>
        <b>
          {machine.name} {WORDS[at]}.
        </b>{' '}
        It is not on the shelf. What you do here is kept with it all the same.
      </span>
      <Refused why={refused} />
      <Button size="compact-xs" variant="default" disabled={busy} onClick={() => void putBack()}>
        Put it back on the shelf
      </Button>
    </div>
  );
}
