import type { Slip } from '../../app/docket/slip';
import type { JobBench } from '../../job/JobProvider';

/** Why nothing may be overwritten yet. */
export function wayBackSlips(machineId: string, { wayBack }: JobBench): Slip[] {
  return (wayBack?.findings ?? []).map((finding) => ({
    id: finding.id,
    severity: finding.severity,
    check: finding.id,
    what: finding.what,
    why: finding.why,
    evidence: finding.evidence,
    actions: [{ label: 'To the way back', go: `/machines/${machineId}/survey?at=way-back` }],
  }));
}
