import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useSyncExternalStore } from 'react';
import { unreadOf } from '../../api/unread';
import css from './Told.module.css';

/** Says what a view on the screen wants to know and could not be found out: failed is not nothing. */
export function NotRead() {
  const client = useQueryClient();
  const unread = useMemo(() => unreadOf(client), [client]);
  const list = useSyncExternalStore(unread.watch, unread.now);
  if (list.length === 0) return null;
  return (
    <p className={css.told} role="alert">
      <span>
        <b>Not known: {[...new Set(list.map(({ what }) => what))].join(', ')}.</b>{' '}
        {[...new Set(list.map(({ because }) => because))].join(' ')}
      </span>
      <Button size="compact-xs" variant="default" onClick={() => void unread.askAgain()}>
        Ask again
      </Button>
    </p>
  );
}
