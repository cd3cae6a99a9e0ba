import type { Watched } from '@jolly/session/store';
import { useEffect, useState } from 'react';

/** So long a drawing stands at least, in ms: as long as a pulse of the bench. */
const STANDS_MS = 40;

/**
 * A value of the session that changes many times a second. The first change after a pause is drawn at once, those behind
 * it together: drawing at every change would leave no time for the person.
 */
export function useFollowed<T>(watched: Watched<T>): T {
  const [drawn, setDrawn] = useState({ of: watched, value: watched.now() });
  useEffect(() => {
    let resting: ReturnType<typeof setTimeout> | undefined;
    let changed = false;
    const draw = () => {
      if (resting !== undefined) {
        changed = true;
        return;
      }
      setDrawn({ of: watched, value: watched.now() });
      resting = setTimeout(() => {
        resting = undefined;
        if (changed) draw();
      }, STANDS_MS);
      changed = false;
    };
    draw();
    const end = watched.listen(draw);
    return () => {
      clearTimeout(resting);
      end();
    };
  }, [watched]);
  return drawn.of === watched ? drawn.value : watched.now();
}
