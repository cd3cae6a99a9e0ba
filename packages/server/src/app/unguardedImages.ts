import type { Queries } from '../sql/db';
import { guardsOffIn } from '../sql/builds';

/** What was found before: an image with the same hash is the same image. */
const known = new Map<string, readonly string[]>();

/** Guard settings that are off in images, by hash; an image of which nobody here knows what it was built with is missing. */
export async function guardsOffInImages(
  db: Queries,
  hashes: readonly string[],
): Promise<ReadonlyMap<string, readonly string[]>> {
  const others = hashes.filter((hash) => !known.has(hash));
  if (others.length > 0) for (const { hash, off } of await guardsOffIn(db, others)) known.set(hash, off);
  return new Map(
    hashes.flatMap((hash) => {
      const off = known.get(hash);
      return off ? [[hash, off] as const] : [];
    }),
  );
}
