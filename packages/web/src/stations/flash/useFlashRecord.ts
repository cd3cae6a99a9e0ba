import type { MachineRecord } from '@jolly/core/checks/record';
import { skipToken, useQuery } from '@tanstack/react-query';
import { imageBytes } from '../../api/api';
import type { DoneBuild } from '@jolly/contract/endpoints/builds';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** What the checks of a flash need to know: the card as it will be written, the image on it, and the bootloader. */
export function useFlashRecord(
  card: NonNullable<MachineRecord['card']>,
  namesTaken: string[],
  built: DoneBuild | undefined,
): MachineRecord {
  const { core, machine, board } = useWorkbench();
  const { wayBack } = useJob();
  const image = useQuery({
    queryKey: ['image-record', machine.board, built?.imageHash],
    queryFn: built
      ? async () => core.imageRecord(`Build ${built.buildId}`, await imageBytes(built.imageHash), machine)
      : skipToken,
    staleTime: Infinity,
  });
  // Only a bootloader that was read out of this board is known; nobody can tell otherwise without trying.
  const read = wayBack?.kept.find(
    ({ kind, board: of }) => kind === 'bootloader' && of.id === board.id && of.revision === board.revision,
  );
  return {
    card,
    namesTaken,
    ...(built && image.data && { image: image.data }),
    ...(read && { bootloader: read.verdict === 'empty' ? ('absent' as const) : ('there' as const) }),
  };
}
