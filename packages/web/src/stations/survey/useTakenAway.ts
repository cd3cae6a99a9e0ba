import type { TakenAway } from '@jolly/core/ripple/takenAway';
import { textSum } from '@jolly/core/bytes/textSum';
import type { Change } from '@jolly/core/ripple/change';
import type { Job } from '@jolly/core/ripple/job';
import { surveyTick } from '@jolly/core/ripple/surveyTick';
import { skipToken, useQuery } from '@tanstack/react-query';
import { keptText } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { keptReport } from '../../job/keptReport';
import { plannedFrom } from '../../job/plannedFrom';
import { useWorkbench } from '../../workbench/Workbench';

/** A tick about the present image, as it is noted in the job. */
export const hadId = (key: string) => `had:${key}`;

export interface Losses {
  list: TakenAway[];
  state: 'pending' | 'failed' | 'known';
  because?: string;
}

/** What stands for a list of losses: somebody has seen just these. */
const sumOf = (list: readonly TakenAway[]) =>
  textSum(list.map(({ key, lost }) => `${key} ${lost}`).join('\n'));

/** The tick of whoever has seen what goes: for these changes, and for this list. */
export const lossesTick = (changes: readonly Change[], { list }: Losses) =>
  ({ id: surveyTick('losses', changes), kind: 'survey', subject: 'losses', title: 'You know what goes', to: sumOf(list) }) as const; // prettier-ignore

/** Whether somebody has seen what goes, as it is now. */
export const haveSeen = ({ changes, done }: Pick<Job, 'changes' | 'done'>, losses: Losses | undefined): boolean =>
  losses?.state === 'known' && done.some(({ id, to }) => id === surveyTick('losses', changes) && to === sumOf(losses.list)); // prettier-ignore

/** What the next image takes away; only a job that flashes one takes anything. */
export function useTakenAway(): Losses | undefined {
  const { core, machine, version, facts } = useWorkbench();
  const { stored, tail, before, wayBack } = useJob();
  const kept = keptReport(wayBack, before);
  const ticked = (stored?.job.done ?? [])
    .filter(({ id }) => id.startsWith('had:'))
    .map(({ subject }) => subject)
    .sort();
  // What was set by hand counts as well: the next image is built from the machine file.
  const after = stored && tail?.ripple.flash ? plannedFrom(machine, stored.job, tail.ripple.after, facts.catalogue) : undefined; // prettier-ignore
  const found = useQuery({
    queryKey: ['takenAway', machine.id, version, stored?.id, stored?.version, kept?.id, ticked],
    queryFn: after
      ? async () => core.takenAway(before, after, kept ? await keptText(machine.id, kept.id) : '', ticked)
      : skipToken,
    placeholderData: (old) => old,
  });
  if (!after) return undefined;
  if (found.error) return { list: [], state: 'failed', because: found.error.message };
  return { list: found.data ?? [], state: found.data ? 'known' : 'pending' };
}
