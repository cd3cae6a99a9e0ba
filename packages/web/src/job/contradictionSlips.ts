import type { Slip } from '../app/docket/slip';
import type { JobBench } from './JobProvider';

/** What a job contradicts itself in, or what is to be told first: said wherever its plan is shown as if it could be carried out. */
export const contradictionSlips = (machineId: string, { tail }: JobBench): Slip[] =>
  (tail?.ripple.contradictions ?? []).map((entry) => ({
    id: `contradiction:${entry.id}:${entry.changes.join()}`,
    severity: 'stop',
    what: entry.what,
    why: entry.why,
    evidence: [],
    actions: [{ label: 'To the changes', go: `/machines/${machineId}/survey?at=job` }],
  }));
