import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import type { Kit } from '../kit/kit';
import type { Part } from '../parts/part';

/** Everything machines are made of, as read from the catalogue's files. */
export interface Catalogue {
  boards: Board[];
  chips: Chip[];
  parts: Part[];
  kits: Kit[];
}
