import type { MachineRecord } from '@jolly/core/checks/record';
import { skipToken, useQuery } from '@tanstack/react-query';
import { imageBytes } from '../../api/api';
import type { DoneBuild } from '@jolly/contract/endpoints/builds';
import { useStation } from '../../app/frame/StationContext';
import { useWorkbench } from '../../workbench/Workbench';

/** What the checks of a flash need to know: the card as it will be written, the image on it, and the bootloader. */
export function useFlashRecord(
  card: MachineRecord['card'],
  namesTaken: string[],
  built: DoneBuild | undefined,
  throughBootloader: boolean,
): MachineRecord {
  const { core, machine } = useWorkbench();
  const known = useStation().board?.bootloader.is ?? 'unknown';
  const image = useQuery({
    queryKey: ['image-record', machine.board, built?.imageHash],
    queryFn: built
      ? async () => core.imageRecord(`Build ${built.buildId}`, await imageBytes(built.imageHash), machine)
      : skipToken,
    staleTime: Infinity,
  });
  return {
    ...(card && { card, namesTaken }),
    ...(built && image.data && { image: image.data }),
    // Nobody can tell without trying: what is not known stops nothing.
    ...(throughBootloader && known !== 'unknown' && { bootloader: known }),
  };
}
