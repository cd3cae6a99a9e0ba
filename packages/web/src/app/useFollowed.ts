import type { Watched } from '@jolly/session/store';
import { useEffect, useState } from 'react';

/**
 * A value of the session that changes many times a second. It is drawn as often as there is time for it: drawing at every
 * change would leave none for the person.
 */
export function useFollowed<T>(watched: Watched<T>): T {
  const [drawn, setDrawn] = useState({ of: watched, value: watched.now() });
  useEffect(() => {
    const draw = () => setDrawn({ of: watched, value: watched.now() });
    draw();
    return watched.listen(draw);
  }, [watched]);
  return drawn.of === watched ? drawn.value : watched.now();
}
