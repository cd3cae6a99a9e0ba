import { notFound, Refusal } from '@jolly/contract/refusal';
import { chipOf } from '@jolly/core/catalogue/catalogue';
import { imageAs } from '@jolly/core/image/imageAs';
import type { ImageFormat } from '@jolly/core/image/imageFile';
import type { Context } from '../context';
import { findImage } from '../sql/images';
import { imageBytes } from './board';

/**
 * An image that was built here, as a file of a format with a name that tells whose it is and which build.
 * @throws {Refusal} not-found, not-so for an image of a board that is not known any more
 */
export async function imageFile(
  context: Context,
  hash: string,
  format: ImageFormat,
): Promise<{ bytes: Uint8Array; saveAs: string }> {
  const stored = await findImage(context.db, hash);
  if (!stored?.header) throw notFound('image', hash);
  const { target, name, buildId } = stored.header;
  const board = context.catalogue.boards.find(({ routes }) =>
    routes.some((route) => route.target === target),
  );
  const chip = chipOf(context.catalogue, board);
  if (!board || !chip) throw new Refusal('not-so', `no board is known that takes images for “${target}”`);
  const bytes = imageAs(format, await imageBytes(context, hash), board, chip);
  const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, ''); // prettier-ignore
  return { bytes, saveAs: `${plain || 'image'}-${buildId}.${format}` };
}
