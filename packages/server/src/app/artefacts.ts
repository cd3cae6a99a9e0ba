import { notFound, Refusal } from '@jolly/contract/refusal';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { boardTaking, chipOf } from '@jolly/core/catalogue/catalogue';
import { withoutBootloader } from '@jolly/core/board/withoutBootloader';
import { imageAs } from '@jolly/core/image/imageAs';
import type { ImageFormat } from '@jolly/core/image/imageFile';
import type { Context } from '../context';
import type { BuildPart } from '@jolly/contract/endpoints/builds';
import { readMachineFile, writeMachineFile } from '@jolly/core/formats/machineFile';
import { sameValue } from '@jolly/core/tree/sameValue';
import { textZip } from '../files/textZip';
import { buildLog, buildMap } from '../sql/builds';
import { findImage } from '../sql/images';
import { imageBytes } from './board';
import { theFacts } from './known';
import { madeFrom, theBuild } from './builds';

/**
 * An image that was built here, as a file of a format with a name that tells whose it is and which build.
 * @throws {Refusal} not-found, not-so for an image of a board that is not known any more, no-room for one it cannot hold
 */
export async function imageFile(
  context: Context,
  hash: string,
  format: ImageFormat,
): Promise<{ bytes: Uint8Array; saveAs: string }> {
  const stored = await findImage(context.db, hash);
  if (!stored?.header) throw notFound('image', hash);
  const { target, name, buildId } = stored.header;
  const board = boardTaking(context.catalogue, target);
  const chip = chipOf(context.catalogue, board);
  if (!board || !chip) throw new Refusal('not-so', `no board is known that takes images for “${target}”`);
  const sold = { board, chip };
  const fromStart = stored.header.loadAddress === 0 ? withoutBootloader(sold) : undefined;
  const at = fromStart ?? sold;
  const image = await imageBytes(context, hash);
  if (image.length > at.chip.flash_bytes)
    throw new Refusal('no-room', `this image has ${bytesInWords(image.length)}; ${at.board.name} holds ${bytesInWords(at.chip.flash_bytes)}`); // prettier-ignore
  const bytes = imageAs(format, image, at.board, at.chip);
  const plain = name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, ''); // prettier-ignore
  return { bytes, saveAs: `${plain || 'image'}-${buildId}.${format}` };
}

/**
 * Any stored image, ours or not, as a file for the board of a machine: at the address its images have there.
 * @throws {Refusal} not-found, bad-file for what cannot lie in that flash
 */
export async function imageForBoard(
  context: Context,
  id: string,
  hash: string,
  format: ImageFormat,
): Promise<Uint8Array> {
  const { board, chip } = await theFacts(context, id);
  const read = await context.reading.read('flash', { bytes: await imageBytes(context, hash), board, chip });
  if ('problem' in read) throw new Refusal('bad-file', read.problem);
  return imageAs(format, read.bytes, board, chip);
}

/**
 * A part of a build as a file, read back before it is handed out: the machine file it was made from, the generated files in
 * one zip, the linker's map, the log.
 * @throws {Refusal} not-found, not-so for what was not kept of this build
 */
export async function buildPart(
  context: Context,
  id: string,
  part: BuildPart,
): Promise<{ bytes: Uint8Array | string; type: string; saveAs: string }> {
  const build = await theBuild(context, id);
  const of = `${build.machineId}-${build.state === 'done' ? build.buildId : id.slice(0, 8)}`;
  switch (part) {
    case 'machine': {
      const { machine } = await madeFrom(context, id);
      const bytes = writeMachineFile(machine);
      const back = readMachineFile(bytes);
      if ('problems' in back || !sameValue(back.value, machine))
        throw new Error(`the machine file of build ${id} does not read back as it was`);
      return { bytes, type: 'text/yaml', saveAs: `${of}.yaml` };
    }
    case 'generated': {
      const { files } = await madeFrom(context, id);
      return {
        bytes: await textZip(
          files.map(({ path, lines }) => ({
            name: path,
            text: `${lines.map(({ text }) => text).join('\n')}\n`,
          })),
        ),
        type: 'application/zip',
        saveAs: `${of}-generated.zip`,
      };
    }
    case 'map': {
      const bytes = await buildMap(context.db, id);
      if (bytes === undefined) throw new Refusal('not-so', 'no map was kept of this build');
      return { bytes, type: 'text/plain; charset=utf-8', saveAs: `${of}.map` };
    }
    case 'log':
      return { bytes: await buildLog(context.db, id), type: 'text/plain; charset=utf-8', saveAs: `${of}.log` }; // prettier-ignore
  }
}
