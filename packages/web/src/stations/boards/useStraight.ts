import { type BegunBoard, cornersOf } from '@jolly/core/board/begunBoard';
import { projectionOf } from '@jolly/core/board/photoFit';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQuery } from '@tanstack/react-query';
import { boardPhotoUrl } from '../../api/api';
import { boardWork } from './boardWork';

/** The photo of a begun board as if taken straight from above, as an address; or why there is none. */
export function useStraight(id: string, { board, photo }: BegunBoard): { url?: string; why?: string } {
  const { x, y } = board.outline_mm ?? {};
  const corners = photo && cornersOf(photo);
  const made = useQuery({
    queryKey: ['straight', id, photo?.hash, corners, x, y],
    enabled: corners !== undefined && x !== undefined && y !== undefined && x > 0 && y > 0,
    queryFn: async () => {
      if (!corners || !photo || x === undefined || y === undefined) return null;
      const projection = projectionOf({ x, y }, corners);
      const bytes = await (await fetch(boardPhotoUrl(id, photo.hash))).blob();
      const url = await boardWork().straighten(bytes, { x, y }, projection);
      if (url === undefined) throw new Error('the photo cannot be read as a picture');
      return url;
    },
    placeholderData: (old) => old,
    retry: false,
    staleTime: Infinity,
  });
  const url = photo && made.data ? made.data : undefined;
  return { ...(url !== undefined && { url }), ...(made.error && { why: whyOf(made.error) }) };
}
