import type { Machine } from '@jolly/core/machine/machine';
import { pathOf } from '@jolly/contract/client';
import type { BuildPart } from '@jolly/contract/endpoints/builds';
import type { Board } from '@jolly/core/board/board';
import type { ImageFormat } from '@jolly/core/image/imageFile';
import { appWindow } from '../app/window';

/** Every way into the server, made from the contract. */
export const api = appWindow.client;

/** The text of something kept. */
export async function keptText(id: string, kept: number): Promise<string> {
  return (await api.keptBytes({ id, number: String(kept) })).text();
}

/** The bytes of an image. */
export async function imageBytes(hash: string): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await (await api.image({ hash })).arrayBuffer());
}

export const machineFileUrl = (id: string): string => pathOf('machineFile', { id });
export const recordFileUrl = (id: string, format: 'csv' | 'md', mark = false): string =>
  pathOf('recordFile', { id, format, mark: mark ? 'yes' : undefined });
export const machineArchiveUrl = (id: string): string => pathOf('machineArchive', { id });
export const shelfArchiveUrl: string = pathOf('shelfArchive', {});
export const buildEventsUrl = (id: string): string => pathOf('buildEvents', { id });
export const culpritEventsUrl = (id: string): string => pathOf('culpritEvents', { id });
export const flashEventsUrl = (id: string): string => pathOf('flashEvents', { id });
export const costEventsUrl = (id: string): string => pathOf('costEvents', { id });
export const buildFileUrl = (id: string, part: BuildPart): string => pathOf('buildFile', { id, part });
export const keptUrl = (id: string, kept: number): string =>
  pathOf('keptBytes', { id, number: String(kept) });
export const photoUrl = (id: string, photo: number): string =>
  pathOf('photoBytes', { id, number: String(photo) });
/** Its hash makes another photo another address. */
export const boardPhotoUrl = (id: string, hash: string): string => `${pathOf('boardPhoto', { id })}?of=${hash.slice(0, 12)}`; // prettier-ignore
export const chipFileUrl = (id: string): string => pathOf('chipFile', { id });
export const partFileUrl = (id: string): string => pathOf('partFile', { id });
export const imageFileUrl = (hash: string, format: ImageFormat): string =>
  pathOf('imageFile', { hash, format });
export const boardImageUrl = (id: string, hash: string, format: ImageFormat, name: string): string =>
  `${pathOf('imageForBoard', { id, hash, format, name })}`;
export const boardFileUrl = ({ id, revision }: Pick<Board, 'id' | 'revision'>): string =>
  pathOf('boardFile', { id, revision });

/** The image of a machine as it is given, only to be tried. @throws {Refusal} saying why there is none */
export async function trialImage(machine: Machine): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await (await api.trial({ id: machine.id }, machine)).arrayBuffer());
}
