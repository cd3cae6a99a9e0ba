import { bytesInWords } from '../../ui/bytesInWords';
import { useWorkbench } from '../../workbench/Workbench';

/** What leaving out the bootloader would give, and what it costs. */
export function BootloaderWords() {
  const { board, kit } = useWorkbench();
  const { load_address: bytes } = board.routes[0];
  if (bytes === 0) return null;
  return (
    <p className="soft">
      The bootloader of this board takes {bytesInWords(bytes)} below the image. Without it they would be free,
      and from then on only a programmer brings an image onto the board, every time: no card does. {kit.name}{' '}
      is built for the place behind the bootloader, so this is not among the proposals.
    </p>
  );
}
