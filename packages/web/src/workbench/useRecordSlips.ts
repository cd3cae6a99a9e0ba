import type { Finding, MachineRecord } from '@jolly/core';
import { useQuery } from '@tanstack/react-query';
import { type Slip, slipOfFinding, standingFirst } from '../app/docket/slip';
import { partOfSetting } from '../stations/settings/parts';
import { useWorkbench } from './Workbench';

/** What the checks say about what is known beside the machine file, as slips for the station that knows it. */
export function useRecordSlips(record: MachineRecord): Slip[] {
  const workbench = useWorkbench();
  const { core, machine, version } = workbench;
  const known = JSON.stringify(record);
  const found = useQuery({
    queryKey: ['record-findings', machine.id, version, known],
    queryFn: () => core.recordFindings(machine, JSON.parse(known) as MachineRecord),
    staleTime: Infinity,
  });
  const goTo = ({ subject }: Finding) =>
    `/machines/${machine.id}/settings?part=${partOfSetting(subject.id, workbench)}&key=${subject.id}`;
  return standingFirst(found.data ?? []).map((finding) => {
    const { finding: asFinding, ...slip } = slipOfFinding(finding, goTo);
    // A card, an image or a proof is as it is: only what is set can be set otherwise, or aside.
    return finding.subject.kind === 'setting'
      ? { ...slip, finding: asFinding! }
      : { ...slip, actions: finding.remedies };
  });
}
