import type { Client } from '@jolly/contract/client';
import type { CalibrationToRecord } from '@jolly/contract/endpoints/calibrations';
import type { Pin, StoredPhoto } from '@jolly/contract/endpoints/photos';
import { sameValue } from '@jolly/core/tree/sameValue';
import type { Way } from './way';

export interface PhotoDeed {
  kind: 'photo';
  label: string;
  photo: number;
  was: 'added' | 'removed' | { pinned: { before: readonly Pin[]; after: readonly Pin[] } };
}
/** A line of one's own, by its number in the logbook while it stands there. */
export interface NoteDeed {
  kind: 'note';
  label: string;
  text: string;
  entry: number;
}
/** A measurement on record, by its number while it stands there. */
export interface MeasuredDeed {
  kind: 'measured';
  label: string;
  measured: CalibrationToRecord;
  calibration: number;
}
/** What a person does that is kept beside machine file and job. */
export type KeptDeed = PhotoDeed | NoteDeed | MeasuredDeed;

export type KeptClient = Pick<
  Client,
  | 'photos'
  | 'savePhoto'
  | 'removePhoto'
  | 'putPhotoBack'
  | 'addNote'
  | 'takeNoteBack'
  | 'addCalibration'
  | 'takeCalibrationBack'
>;

/**
 * Takes a deed back, or does it again.
 * @returns the deed as it stands then: what is done again may have another number
 * @throws {Refusal} where the server refuses
 */
export async function turnKept(client: KeptClient, machine: string, deed: KeptDeed, way: Way): Promise<KeptDeed> {
  if (deed.kind === 'photo') {
    await turnPhoto(client, machine, deed, way);
    return deed;
  }
  return deed.kind === 'note' ? turnNote(client, machine, deed, way) : turnMeasured(client, machine, deed, way);
} // prettier-ignore

async function turnPhoto(client: KeptClient, id: string, { photo, was }: PhotoDeed, way: Way): Promise<void> {
  const at = { id, number: String(photo) };
  if (typeof was === 'string')
    return void (await ((was === 'added') === (way === 'undo')
      ? client.removePhoto(at)
      : client.putPhotoBack(at)));
  const [from, to] =
    way === 'undo' ? [was.pinned.after, was.pinned.before] : [was.pinned.before, was.pinned.after];
  const now = (await client.photos({ id })).find((one) => one.id === photo);
  if (now) await client.savePhoto(at, { title: now.title, pins: pinsTurned(now, from, to) });
}

/** The pins of a photo with what one deed made of them made the other way; those of others stay. */
function pinsTurned({ pins }: StoredPhoto, from: readonly Pin[], to: readonly Pin[]): Pin[] {
  const among = (list: readonly Pin[]) => (pin: Pin) => list.some((one) => sameValue(one, pin));
  const left = pins.filter((pin) => among(to)(pin) || !among(from)(pin));
  return [...left, ...to.filter((pin) => !among(from)(pin) && !among(left)(pin))];
}

async function turnNote(client: KeptClient, id: string, deed: NoteDeed, way: Way): Promise<NoteDeed> {
  if (way === 'undo') {
    await client.takeNoteBack({ id, number: String(deed.entry) });
    return deed;
  }
  const [newest] = await client.addNote({ id }, { summary: deed.text });
  return { ...deed, entry: newest?.id ?? deed.entry };
}

async function turnMeasured(
  client: KeptClient,
  id: string,
  deed: MeasuredDeed,
  way: Way,
): Promise<MeasuredDeed> {
  if (way === 'undo') {
    await client.takeCalibrationBack({ id, number: String(deed.calibration) });
    return deed;
  }
  const [newest] = (await client.addCalibration({ id }, deed.measured)).calibrations;
  return { ...deed, calibration: newest?.id ?? deed.calibration };
}
