import type { MachineRecord } from '@jolly/core/checks/record';
import { skipToken, useQuery } from '@tanstack/react-query';
import { imageBytes } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { useWorkbench } from '../../workbench/Workbench';

/** An image as it is stored, and what it is called where something speaks against it. */
export interface ImageToFlash {
  hash: string;
  name: string;
}

/** What the checks of a flash need to know: the card as it will be written, the image on it, and the bootloader. */
export function useFlashRecord(
  card: MachineRecord['card'],
  namesTaken: string[],
  flashed: ImageToFlash | undefined,
  throughBootloader: boolean,
): MachineRecord {
  const { core, machine } = useWorkbench();
  const known = useStation().board?.bootloader.is ?? 'unknown';
  const image = useQuery({
    queryKey: ['image-record', machine.board, flashed?.hash, flashed?.name],
    queryFn: flashed
      ? async () => core.imageRecord(flashed.name, await imageBytes(flashed.hash), machine)
      : skipToken,
    staleTime: Infinity,
  });
  return {
    ...(card && { card, namesTaken }),
    ...(flashed && image.data && { image: image.data }),
    // Nobody can tell without trying: what is not known stops nothing.
    ...(throughBootloader && known !== 'unknown' && { bootloader: known }),
  };
}
