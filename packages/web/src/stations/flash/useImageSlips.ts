import type { Slip } from '../../app/docket/slip';
import { useWorkbench } from '../../workbench/Workbench';
import { cardSlips } from './cardSlips';
import { type ImageToFlash, useFlashSlips } from './useFlashSlips';
import { builtImage, type ImageOffer } from './useImageChoice';

export interface ImageSlips {
  slips: Slip[];
  /** The checks have not spoken yet. */
  checking: boolean;
  /** It is made for another board or another start, or too large: it is not to be written. */
  notForThis: boolean;
}

/** Checks that tell an image this board does not start. */
const NOT_FOR_THIS: readonly string[] = ['image.target', 'image.offset', 'fit.flash-over', 'fit.ram-over'];

/** What speaks against an image that is to leave the product, and what nobody here can promise of it. */
export function useImageSlips(
  offer: ImageOffer | undefined,
  { taken, throughBootloader }: { taken: boolean; throughBootloader: boolean },
): ImageSlips {
  const { machine, version } = useWorkbench();
  const image = offer && judged(offer);
  const { slips, checking } = useFlashSlips({ image, throughBootloader, settled: taken });
  const stale = offer?.build !== undefined && offer.build.machineVersion !== version;
  return {
    slips: [
      ...slips,
      ...(stale ? cardSlips(machine.id, { outcome: undefined, taken: false, newest: offer.again ? 'again' : 'older', image: undefined, suggested: '' }) : []),
      ...foreignSlips(offer),
    ],
    checking,
    notForThis: slips.some(({ check }) => check !== undefined && NOT_FOR_THIS.includes(check)),
  };
} // prettier-ignore

/** The image as it is stored; what is kept of the board at hand was judged as it was kept. */
function judged({ build, image, name }: ImageOffer): ImageToFlash | undefined {
  if (build) return builtImage(build);
  return 'hash' in image ? { hash: image.hash, name } : undefined;
}

/** What nobody here can promise of an image that was not built here. */
function foreignSlips(offer: ImageOffer | undefined): Slip[] {
  if (!offer || offer.build) return [];
  return [
    {
      id: 'foreign',
      severity: 'note',
      what: `${offer.name} was not built here.`,
      why: 'It is written and read back byte for byte; what it does nobody here knows. The bench runs images of this kit only: a foreign one lies in its flash and stays silent there.',
      evidence: [offer.told],
      actions: [],
    },
  ];
}
