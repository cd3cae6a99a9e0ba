import { PIECE_BYTES } from '@jolly/contract/endpoints/archives';
import { api } from '../../api/api';

/** Sends an archive piece by piece, telling how far it is; ends early when it is to be cancelled, and leaves nothing there. */
export async function bringIn(
  file: File,
  told: (share: number) => void,
  signal: AbortSignal,
): Promise<string | undefined> {
  const { id } = await api.beginUpload();
  for (let nth = 0; nth * PIECE_BYTES < file.size; nth += 1) {
    if (signal.aborted) {
      await api.dropUpload({ id });
      return undefined;
    }
    const piece = file.slice(nth * PIECE_BYTES, (nth + 1) * PIECE_BYTES);
    await api.addToUpload({ id, number: String(nth) }, piece);
    told(Math.min(1, ((nth + 1) * PIECE_BYTES) / file.size));
  }
  return id;
}
