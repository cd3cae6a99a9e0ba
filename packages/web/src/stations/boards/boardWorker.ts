import type { BoardDraft } from '@jolly/core/board/boardDraft';
import type { Chip } from '@jolly/core/board/chip';
import { projected, type Projection } from '@jolly/core/board/photoFit';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { draftProblems, readBoardFile } from '@jolly/core/formats/boardFile';
import { expose } from 'comlink';

/** Reads a board file as far as it goes. */
const read = (text: string, known: Pick<Catalogue, 'chips' | 'boards'>) => readBoardFile(text, known);

/** What is missing or wrong in a board that is being described. */
const problems = (draft: BoardDraft, chips: readonly Chip[]) => draftProblems(draft, chips);

/** Longest side of a straightened picture, in pixels: a contact of 2.54 mm on a board of 200 mm has 18. */
const LONGEST = 1400;

/** Draws a photo anew as if taken straight from above, as an address: the board alone, its back edge on top. */
async function straighten(
  photo: Blob,
  size: { x: number; y: number },
  projection: Projection,
): Promise<string | undefined> {
  const picture = await createImageBitmap(photo).catch(() => undefined);
  if (!picture) return undefined;
  const { width, height } = picture;
  const source = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true });
  source?.drawImage(picture, 0, 0);
  const from = source?.getImageData(0, 0, width, height);
  picture.close();
  if (!from) return undefined;
  const scale = LONGEST / Math.max(size.x, size.y);
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(size.x * scale)), Math.max(1, Math.round(size.y * scale))); // prettier-ignore
  const drawing = canvas.getContext('2d');
  if (!drawing) return undefined;
  const to = drawing.createImageData(canvas.width, canvas.height);
  const [pixels, points] = [new Uint32Array(to.data.buffer), new Uint32Array(from.data.buffer)];
  for (let row = 0; row < canvas.height; row += 1)
    for (let column = 0; column < canvas.width; column += 1) {
      const at = projected(projection, { x: column / scale, y: size.y - row / scale });
      const [x, y] = [Math.floor(at.x * width), Math.floor(at.y * height)];
      if (x >= 0 && y >= 0 && x < width && y < height)
        pixels[row * canvas.width + column] = points[y * width + x] ?? 0;
    }
  drawing.putImageData(to, 0, 0);
  return asAddress(await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 }));
}

/** As text: the page takes pictures from its own server and from its own text only. */
const asAddress = (picture: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error ?? new Error('the picture cannot be read'));
    reader.readAsDataURL(picture);
  });

const WORK = { read, problems, straighten };
export type BoardWork = typeof WORK;
expose(WORK);
