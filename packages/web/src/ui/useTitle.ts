import { useEffect } from 'react';

/** The title of the window, the nearest thing first: `Calibrate, Plover · Jolly Cog`. */
export function useTitle(...parts: readonly string[]): void {
  const title = [parts.filter(Boolean).join(', '), 'Jolly Cog'].filter(Boolean).join(' · ');
  useEffect(() => {
    document.title = title;
  }, [title]);
}
