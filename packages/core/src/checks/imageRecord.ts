import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import type { MachineRecord } from './record';
import { readImageFile } from '../image/imageFile';
import { misplaced, plausible } from '../image/plausible';

/** What the checks need to know of an image that is about to be flashed: whose it is, and what speaks against it. */
export function imageRecord(
  name: string,
  bytes: Uint8Array,
  board: Board,
  chip: Chip,
): NonNullable<MachineRecord['image']> {
  const file = readImageFile(bytes);
  if ('problem' in file) return { name, against: [file.problem] };
  const { header, verdict, evidence } = plausible(file, board, chip);
  // Target and address of a header have checks of their own.
  return header
    ? {
        name,
        target: header.target,
        loadAddress: header.loadAddress,
        against: misplaced(file, board, chip),
      }
    : { name, against: verdict === 'fits' ? [] : evidence };
}
