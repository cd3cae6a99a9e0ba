import type { Sizes } from '@jolly/core/build/sizes';
import type { MachineRecord } from '@jolly/core/checks/record';
import { skipToken, useQuery } from '@tanstack/react-query';
import { imageBytes } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { failedSlip, type RecordSlips, useRecordSlips } from '../../workbench/useRecordSlips';
import { useWorkbench } from '../../workbench/Workbench';

/** An image as it is stored, what it is called where something speaks against it, and its sizes where it was built here. */
export interface ImageToFlash {
  hash: string;
  name: string;
  sizes?: Sizes;
}

interface Asked {
  image: ImageToFlash | undefined;
  /** The card as it will be written, and the names its board has taken. */
  card?: Required<Pick<MachineRecord, 'card' | 'namesTaken'>>;
  throughBootloader: boolean;
  /** It lies in the slot or in the flash already, which has evidence of its own. */
  settled: boolean;
}

/** What the checks say of an image on its way to the board, of the card it goes by, and of the bootloader. */
export function useFlashSlips({ image, card, throughBootloader, settled }: Asked): RecordSlips {
  const { core, machine } = useWorkbench();
  const bootloader = useStation().board?.bootloader.is ?? 'unknown';
  const judged = useQuery({
    queryKey: ['image-record', machine.board, image?.hash, image?.name],
    queryFn:
      image && !settled
        ? async () => core.imageRecord(image.name, await imageBytes(image.hash), machine)
        : skipToken,
    staleTime: Infinity,
  });
  const record: MachineRecord = {
    ...card,
    ...(image && judged.data && { image: judged.data }),
    ...(image?.sizes && { sizes: image.sizes }),
    // Nobody can tell without trying: what is not known stops nothing.
    ...(throughBootloader && bootloader !== 'unknown' && { bootloader }),
  };
  const { slips, checking } = useRecordSlips(settled ? {} : record);
  return {
    slips: judged.error ? [failedSlip('This image could not be judged', judged.error), ...slips] : slips,
    checking: checking || judged.isLoading,
  };
}
