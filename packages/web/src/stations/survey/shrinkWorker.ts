import { expose } from 'comlink';

/** Longest side of a kept photo, in pixels: contacts are still told apart, and a phone's picture shrinks tenfold. */
const LONGEST = 1600;
const QUALITY = 0.82;

/** Draws a picture anew, smaller; what else was in the file (camera, place) is not drawn. */
async function shrink(file: Blob): Promise<{ picture: Blob; was?: string } | undefined> {
  const picture = await createImageBitmap(file).catch(() => undefined);
  if (!picture) return undefined;
  const { width, height } = picture;
  const scale = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  const canvas = new OffscreenCanvas(
    Math.max(1, Math.round(picture.width * scale)),
    Math.max(1, Math.round(picture.height * scale)),
  );
  const drawing = canvas.getContext('2d');
  drawing?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  if (!drawing) return undefined;
  const small = await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
  return { picture: small, ...(scale < 1 && { was: `${width} × ${height} points` }) };
}

export type Shrink = typeof shrink;
expose(shrink);
