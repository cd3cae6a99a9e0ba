import type { Slip } from '../../app/docket/slip';
import type { JobBench } from '../../job/JobProvider';

/** Why nothing may be overwritten yet, and the way to where one is kept. */
export function wayBackSlips(
  machineId: string,
  { wayBack }: Pick<JobBench, 'wayBack'>,
  label = 'To the way back',
): Slip[] {
  return (wayBack?.findings ?? []).map((finding) => ({
    id: finding.id,
    severity: finding.severity,
    check: finding.id,
    what: finding.what,
    why: finding.why,
    evidence: finding.evidence,
    actions: [{ label, go: `/machines/${machineId}/survey?at=way-back` }],
  }));
}
