import { Checkbox } from '@mantine/core';
import type { Consequence } from '@jolly/core/ripple/consequence';
import { type ReactNode } from 'react';
import { asDone, useJob } from '../../job/JobProvider';
import { TickList } from './TickList';
import { useAct } from '../../ui/useAct';

/** What a job asks for at a station, each with its reason; ticking one off fills a tooth and writes the logbook. */
export function WorkList({
  title,
  list,
  beside,
}: {
  title: string;
  list: Consequence[];
  beside?: (entry: Consequence) => ReactNode;
}) {
  const { isDone, tick } = useJob();
  const { refused, act } = useAct();
  if (list.length === 0) return null;
  return (
    <TickList
      title={title}
      count={`${list.filter((entry) => isDone(entry.id)).length} of ${list.length}`}
      refused={refused}
    >
      {list.map((entry) => (
        <li key={entry.id} data-done={isDone(entry.id)}>
          <Checkbox
            checked={isDone(entry.id)}
            onChange={({ currentTarget: { checked } }) => void act(() => tick(asDone(entry), checked))}
            label={entry.title}
            description={entry.because}
          />
          {(entry.from !== undefined || entry.to !== undefined) && (
            <p className="figures">
              {entry.from ?? 'new'}
              {entry.to !== undefined && ` → ${entry.to}`}
            </p>
          )}
          {entry.attention && <p className="refused">{entry.attention.join('; ')}</p>}
          {beside?.(entry)}
        </li>
      ))}
    </TickList>
  );
}
