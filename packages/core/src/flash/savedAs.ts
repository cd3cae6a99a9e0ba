import type { FlashRoute, RouteKind } from '../board/route';
import { isCardRoute } from '../board/route';
import type { ImageFormat } from '../image/imageFile';

/** A file an image can be saved as for a board, and what takes it. */
export interface SavedAs {
  format: ImageFormat;
  for: string;
  /** The name it must have, where the board asks for one. */
  named: boolean;
  ending: string;
}

const BY_ROUTE: Partial<Record<RouteKind, Omit<SavedAs, 'named'>>> = {
  programmer: { format: 'hex', for: 'for a programmer', ending: 'hex' },
  probe: { format: 'hex', for: 'for a debug probe', ending: 'hex' },
  drive: {
    format: 'uf2',
    for: 'to be copied onto its drive; 0xFF fills the last of its blocks of 256 bytes',
    ending: 'uf2',
  },
  'update-class': { format: 'bin', for: 'for a tool of the USB update class', ending: 'bin' },
  serial: { format: 'bin', for: 'for a tool over USB serial', ending: 'bin' },
};

/** The files that the routes of a board take, each once. */
export function savedAs(routes: readonly FlashRoute[]): SavedAs[] {
  const all = routes.flatMap((route): SavedAs[] => {
    if (isCardRoute(route))
      return [{ format: 'bin', for: 'for its card', named: true, ending: route.rule.extension }];
    const entry = BY_ROUTE[route.kind];
    return entry ? [{ ...entry, named: false }] : [];
  });
  return all.filter(
    (entry, index) =>
      all.findIndex(({ format, named }) => format === entry.format && named === entry.named) === index,
  );
}
