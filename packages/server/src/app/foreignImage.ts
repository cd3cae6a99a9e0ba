import type { ForeignImage } from '@jolly/contract/endpoints/board';
import { Refusal } from '@jolly/contract/refusal';
import { readImage } from '@jolly/core/image/imageHeader';
import type { Context } from '../context';
import { hashOf } from '../files/byteStore';
import { addImage } from '../sql/images';
import { theFacts } from './known';

/** Takes in an image file of somebody else, so that it can be flashed; it is no way back. */
export async function addForeignImage(
  context: Context,
  id: string,
  name: string,
  bytes: Uint8Array,
): Promise<ForeignImage> {
  const { board, chip } = await theFacts(context, id);
  const judged = await context.reading.read('image', { kind: 'image', bytes, board, chip });
  if ('problem' in judged) throw new Refusal('bad-file', judged.problem);
  const hash = hashOf(bytes);
  await context.images.put(hash, bytes);
  const read = readImage(bytes);
  await addImage(context.db, { hash, bytes: bytes.length, ...('header' in read && { header: read.header }) });
  return { hash, name, bytes: bytes.length, verdict: judged.verdict, evidence: judged.evidence };
}
