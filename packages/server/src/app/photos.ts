import type { Pin, StoredPhoto } from '@jolly/contract/endpoints/photos';
import { notFound, Refusal } from '@jolly/contract/refusal';
import { type Context, transact, type Within } from '../context';
import { hashOf } from '../files/byteStore';
import { redrawPhoto } from '../files/redrawPhoto';
import {
  addPhoto,
  findPhoto,
  forgetPhoto,
  hashInUse,
  listPhotos,
  removedBefore,
  savePhoto,
  setRemoved,
} from '../sql/photos';
import { theMachine } from './known';
import { factsToKeep } from './wayBack';

const MOST_PHOTOS = 60;
/** How long a removed photo can be put back. */
export const PUT_BACK_MS = 10 * 60_000;

/** Photos of connectors, oldest first. */
export async function photos(context: Within, machineId: string): Promise<StoredPhoto[]> {
  await theMachine(context, machineId);
  return listPhotos(context.db, machineId);
}

/** Draws a photo anew and keeps it; the limit holds however many are sent at once. */
export async function keepPhoto(
  context: Context,
  machineId: string,
  title: string,
  bytes: Uint8Array,
): Promise<StoredPhoto> {
  // Refused before anything is drawn: for a machine that is not there there is nothing to keep.
  await factsToKeep(context, machineId);
  const photo = await redrawPhoto(bytes);
  if ('problem' in photo) throw new Refusal('bad-file', photo.problem);
  const hash = hashOf(photo.bytes);
  await context.photos.put(hash, photo.bytes);
  const { type, width, height } = photo;
  const kept = transact(context, async (within) => {
    await refuseTooMany(within, machineId);
    const { board } = await factsToKeep(within, machineId);
    return addPhoto(within.db, machineId, {
      board: { id: board.id, revision: board.revision },
      hash, type, width, height, title, pins: [], at: context.now(),
    }); // prettier-ignore
  });
  return kept.catch(async (error: unknown) => {
    await dropBytes(context, hash);
    throw error;
  });
}

async function refuseTooMany({ db }: Within, machineId: string): Promise<void> {
  if ((await listPhotos(db, machineId)).length >= MOST_PHOTOS)
    throw new Refusal('too-many', `at most ${MOST_PHOTOS} photos are kept for a machine; remove one first`);
}

/** Keeps the title and the pins of a photo. */
export async function namePhoto(
  { db }: Within,
  machineId: string,
  id: number,
  named: { title: string; pins: Pin[] },
): Promise<StoredPhoto> {
  const photo = await savePhoto(db, machineId, id, named);
  if (!photo) throw notFound('photo', String(id));
  return photo;
}

/** The bytes of a photo that is not removed. */
export async function photoBytes(
  context: Context,
  machineId: string,
  id: number,
): Promise<{ photo: StoredPhoto; bytes: Uint8Array }> {
  const photo = await findPhoto(context.db, machineId, id);
  // Photos of earlier versions lie beside the images.
  const bytes = photo && ((await context.photos.get(photo.hash)) ?? (await context.images.get(photo.hash)));
  if (!photo || !bytes) throw notFound('photo', String(id));
  return { photo, bytes };
}

/** Takes a photo out of sight; it can be put back until the moment that is answered. */
export async function removePhoto(
  context: Context,
  machineId: string,
  id: number,
): Promise<{ photo: StoredPhoto; until: string }> {
  const photo = await setRemoved(context.db, machineId, id, context.now());
  if (!photo) throw notFound('photo', String(id));
  return { photo, until: new Date(context.now().getTime() + PUT_BACK_MS).toISOString() };
}

export function putPhotoBack(context: Context, machineId: string, id: number): Promise<StoredPhoto> {
  return transact(context, async (within) => {
    await refuseTooMany(within, machineId);
    const photo = await setRemoved(within.db, machineId, id, null);
    if (!photo) throw notFound('removed photo', String(id));
    return photo;
  });
}

/** Forgets a removed photo at once: its row and, unless another photo is the very same, its bytes. */
export async function forgetNow(context: Context, machineId: string, id: number): Promise<void> {
  const hash = await forgetPhoto(context.db, machineId, id);
  if (hash === undefined) throw notFound('removed photo', String(id));
  await dropBytes(context, hash);
}

/** Forgets every photo whose time to be put back is over. */
export async function forgetLapsed(context: Context): Promise<void> {
  const lapsed = await removedBefore(context.db, new Date(context.now().getTime() - PUT_BACK_MS));
  for (const { machine, id } of lapsed) await forgetNow(context, machine, id);
}

async function dropBytes(context: Context, hash: string): Promise<void> {
  const { photo, other } = await hashInUse(context.db, hash);
  if (!photo) await context.photos.drop(hash);
  if (!photo && !other) await context.images.drop(hash);
}
