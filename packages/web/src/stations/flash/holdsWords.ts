import type { BoardOnBench } from '@jolly/contract/endpoints/board';

/** What the flash holds, within a sentence. Where nothing was flashed here, nobody here knows what lies in it. */
export function holdsWords(board: Pick<BoardOnBench, 'image' | 'imageHash'> | undefined): string {
  if (board?.image) return `${board.image.name}, build ${board.image.buildId}`;
  return board?.imageHash ? 'no whole image of ours: a foreign one, or a part' : 'nothing on record';
}
