import { useQuery } from '@tanstack/react-query';
import type { Slip } from '../../app/docket/slip';
import { useWorkbench } from '../../workbench/Workbench';

/** What the checks say of a card before it is written: its name, format and size against the board's rules. */
export function useCardSlips(
  fileName: string,
  card: { format: string; sizeGb: number },
  namesTaken: string[],
  written: boolean,
): Slip[] {
  const { core, machine, version } = useWorkbench();
  const found = useQuery({
    queryKey: ['card-findings', machine.id, version, fileName, card.format, card.sizeGb, namesTaken],
    queryFn: () => core.recordFindings(machine, { card: { ...card, fileName }, namesTaken }),
    enabled: !written && fileName !== '',
    staleTime: Infinity,
    placeholderData: (before) => before,
  });
  if (written || fileName === '') return [];
  return (found.data ?? []).map(({ id, severity, what, why, evidence }) => ({
    id: `before:${id}`,
    severity,
    check: id,
    what,
    why,
    evidence,
    actions: [],
  }));
}
