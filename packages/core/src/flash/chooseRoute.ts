import { type FlashRoute, needsBootloader, type RouteKind } from '../board/route';
import type { Board } from '../board/board';

/** What is known of the bootloader of a board: nobody can tell without trying. */
export interface BootloaderKnown {
  is: 'unknown' | 'there' | 'absent';
  /** How one knows. */
  because: string;
}

/** Routes that this product carries out on its bench. */
const ON_BENCH: ReadonlySet<RouteKind> = new Set(['card', 'card-over-usb', 'serial', 'programmer', 'probe', 'drive', 'update-class']); // prettier-ignore
export const canFlash = ({ kind }: FlashRoute): boolean => ON_BENCH.has(kind);

/** The route to take to a board, and why that one. */
export function chooseRoute(board: Board, bootloader: BootloaderKnown): { route: FlashRoute; because: string } {
  const [first] = board.routes;
  const usable = board.routes.filter(canFlash);
  const free = usable.find((route) => !needsBootloader(route));
  if (bootloader.is === 'absent' && free && needsBootloader(first))
    return { route: free, because: `There is no bootloader (${bootloader.because}), and this route needs none.` };
  const route = usable.includes(first) ? first : (usable[0] ?? first);
  if (!needsBootloader(route))
    return { route, because: 'It needs no bootloader, so nothing has to be there before.' };
  return {
    route,
    because:
      bootloader.is === 'there'
        ? `It asks for the least, and the bootloader is there: ${bootloader.because}.`
        : 'It asks for the least. Whether there is a bootloader is not known yet; trying is harmless.',
  };
} // prettier-ignore
