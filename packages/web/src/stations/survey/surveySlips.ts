import { surveyTick } from '@jolly/core/ripple/surveyTick';
import { isPhotographed } from '@jolly/session/progress';
import type { Slip } from '../../app/docket/slip';
import { contradictionSlips } from '../../job/contradictionSlips';
import type { JobBench } from '../../job/JobProvider';
import { wayBackSlips } from '../flash/wayBackSlips';

const looked = ({ stored, isDone }: JobBench, step: 'report' | 'losses' | 'ready'): boolean =>
  stored !== undefined && isDone(surveyTick(step, stored.job.changes));

/** What is to be done before a cover is opened, and where: those of it that are left. */
const BEFORE: { at: string; what: string; why: string; done: (job: JobBench) => boolean }[] = [
  {
    at: 'board',
    what: 'Find out which board is on the bench.',
    why: 'The same product was sold with different chips; the marking decides.',
    done: ({ isDone }) => isDone('survey:board'),
  },
  {
    at: 'report',
    what: 'Save the settings of the old board.',
    why: 'A tuned value that is not written down is gone.',
    done: (job) => looked(job, 'report'),
  },
  {
    at: 'losses',
    what: 'See what the next image takes away.',
    why: 'What the present image does and the next does not is gone once it is flashed.',
    done: (job) => looked(job, 'losses') || job.tail?.ripple.flash !== true,
  },
  {
    at: 'photos',
    what: 'Photograph the connectors.',
    why: 'Colours lie and memory too.',
    done: ({ tail, ...job }) =>
      isPhotographed(job) || !tail?.ripple.consequences.some((entry) => entry.kind === 'lead'),
  },
  {
    at: 'ready',
    what: 'Lay everything out.',
    why: 'Crimps, meter, card: computed from the job.',
    done: (job) => looked(job, 'ready'),
  },
];

/** The slips of the survey: what contradicts itself, the way back, what is to be put back, and what is left to do. */
export function surveySlips(machineId: string, job: JobBench): Slip[] {
  const go = (label: string, at: string) => [{ label, go: `/machines/${machineId}/survey?at=${at}` }];
  const { stored, tail } = job;
  const always: Slip[] = [
    ...contradictionSlips(machineId, job),
    ...wayBackSlips(machineId, job, 'Keep one'),
    ...job.putBack.map((back): Slip => ({
      id: `back:${back.done.id}`,
      severity: 'mend',
      what: back.title,
      why: 'It was done for a change that is no longer part of the job.',
      evidence: [],
      actions: [{ label: 'It is put back', run: () => job.tick(back.done, false) }],
    })),
  ];
  if (!stored)
    return [
      ...always,
      {
        id: 'no-job',
        severity: 'note',
        what: 'No job is open.',
        why: 'Firmware is not an app to keep up to date. As long as no part changes, no feature is missing and no bug hits you, leave the machine alone.',
        evidence: [],
        actions: go('Something changed', 'job'),
      },
    ];
  const wrongVolts = (tail?.ripple.consequences ?? []).filter(({ id }) => id.startsWith('caution:volts-'));
  return [
    ...always,
    ...BEFORE.filter(({ done }) => !done(job)).map(({ at, what, why }): Slip => ({
      id: at,
      severity: 'note',
      what,
      why,
      evidence: [],
      actions: go('Do it', at),
    })),
    ...wrongVolts.map(({ id, title, because }): Slip => ({
      id,
      severity: 'stop',
      what: title,
      why: because,
      evidence: [],
      actions: go('To the changes', 'job'),
    })),
  ];
}
