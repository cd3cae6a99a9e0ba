import { SegmentedControl } from '@mantine/core';
import { useSearchParams } from 'react-router';
import { CardRoute } from './CardRoute';
import { RestoreRoute } from './RestoreRoute';

/** The routes of the board: by card, or a kept image back by programmer. */
export function FlashStation() {
  const [search, setSearch] = useSearchParams();
  const route = search.get('route') === 'back' ? 'back' : 'card';
  const choose = (
    <SegmentedControl
      size="xs"
      aria-label="Route"
      value={route}
      onChange={(value) => setSearch(value === 'back' ? { route: value } : {}, { replace: true })}
      data={[
        { value: 'card', label: 'By card' },
        { value: 'back', label: 'A kept image back' },
      ]}
    />
  );
  return route === 'back' ? <RestoreRoute choose={choose} /> : <CardRoute choose={choose} />;
}
