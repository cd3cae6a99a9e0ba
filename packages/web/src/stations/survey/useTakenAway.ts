import type { TakenAway } from '@jolly/core/ripple/takenAway';
import { skipToken, useQuery } from '@tanstack/react-query';
import { keptText } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** A tick about the present image, as it is noted in the job. */
export const hadId = (key: string) => `had:${key}`;

export interface Losses {
  list: TakenAway[];
  state: 'pending' | 'failed' | 'known';
  because?: string;
}

/** What the next image takes away; only a job that flashes one takes anything. */
export function useTakenAway(): Losses | undefined {
  const { core, machine } = useWorkbench();
  const { stored, tail, before, wayBack } = useJob();
  const kept = wayBack?.kept.find(({ kind }) => kind === 'dump');
  const ticked = (stored?.job.done ?? [])
    .filter(({ id }) => id.startsWith('had:'))
    .map(({ subject }) => subject)
    .sort();
  const after = stored && tail?.ripple.flash ? tail.ripple.after : undefined;
  const found = useQuery({
    queryKey: ['takenAway', machine.id, stored?.id, stored?.version, kept?.id, ticked],
    queryFn: after
      ? async () => core.takenAway(before, after, kept ? await keptText(machine.id, kept.id) : '', ticked)
      : skipToken,
    placeholderData: (old) => old,
  });
  if (!after) return undefined;
  if (found.error) return { list: [], state: 'failed', because: found.error.message };
  return { list: found.data ?? [], state: found.data ? 'known' : 'pending' };
}
