import type { Finding } from '@jolly/core/finding/finding';
import type { MachineRecord } from '@jolly/core/checks/record';
import { useQuery } from '@tanstack/react-query';
import { type Slip, slipOfFinding, standingFirst } from '../app/docket/slip';
import { settingPath } from '@jolly/session/machineParts';
import { useWorkbench } from './Workbench';

export interface RecordSlips {
  slips: Slip[];
  /** The checks have not spoken yet. */
  checking: boolean;
}

/** Where what no change settles goes on. */
const NEXT: Readonly<Record<string, { label: string; station: (subject: string) => string }>> = {
  'upkeep.other-settings': { label: 'To Build', station: () => 'build' },
  'upkeep.other-pins': { label: 'To Build', station: () => 'build' },
  'upkeep.due': { label: 'Measure it', station: (tool) => `calibrate?tool=${tool}` },
  'upkeep.proof-void': { label: 'To Bring-up', station: () => 'bring-up' },
  'fit.flash-over': { label: 'Make it fit', station: () => 'build?view=fit' },
  'fit.ram-over': { label: 'Make it fit', station: () => 'build?view=fit' },
  'fit.brim': { label: 'Make it fit', station: () => 'build?view=fit' },
};

/** What the checks say about what is known beside the machine file, as slips for the station that knows it. */
export function useRecordSlips(record: MachineRecord): RecordSlips {
  const workbench = useWorkbench();
  const { core, machine, version } = workbench;
  const known = JSON.stringify(record);
  const found = useQuery({
    queryKey: ['record-findings', machine.id, version, known],
    // Written from a record in the line above.
    queryFn: () => core.recordFindings(machine, JSON.parse(known) as MachineRecord),
    staleTime: Infinity,
  });
  const goTo = ({ subject }: Finding) => settingPath(subject.id, workbench);
  const slips = standingFirst(found.data ?? []).map((finding) => {
    const { finding: _asFinding, ...slip } = slipOfFinding(finding, goTo);
    // A card, an image or a proof is as it is: only what is set can be set otherwise, or aside.
    if (finding.subject.kind === 'setting') return { ...slip, finding };
    const next = NEXT[finding.id];
    const leads = next
      ? [{ label: next.label, go: `/machines/${machine.id}/${next.station(finding.subject.id)}` }]
      : [];
    return { ...slip, actions: [...finding.remedies, ...leads] };
  });
  return {
    slips: found.error ? [failedSlip('These checks could not run', found.error)] : slips,
    checking: found.isPending,
  };
}

/** Failed is not nothing: it is said where the findings would stand. */
export function failedSlip(what: string, error: Error): Slip {
  return {
    id: `failed:${what}`,
    severity: 'stop',
    what: `${what}.`,
    why: `What they would have said is not known: ${error.message}. Load the page again.`,
    evidence: [],
    actions: [],
  };
}
