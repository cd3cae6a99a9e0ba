import { boardInRecord } from '@jolly/core/flash/bootloaderKnown';
import { useQuery } from '@tanstack/react-query';
import { askedOf } from '../../api/asked';
import { useWorkbench } from '../../workbench/Workbench';

/** Attempts at the board that the machine at hand has now, newest first; those at another one tell nothing of it. */
export function useFlashes() {
  const { machine } = useWorkbench();
  const here = boardInRecord(machine);
  return useQuery({
    ...askedOf.flashes(machine.id),
    select: (all) => all.filter(({ board }) => board === here),
  });
}
