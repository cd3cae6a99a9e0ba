import { useEffect } from 'react';
import { useLocation } from 'react-router';

/** How long a place may take to show what was looked for. */
const LONGEST_MS = 5000;

/** What was looked for gets the focus where it stands: its field, where it has one, else what opens it. */
function focusOn(find: string): boolean {
  const place = document.querySelector<HTMLElement>(`[data-find="${CSS.escape(find)}"]`);
  const field = 'input:not([type="hidden"]), select, textarea';
  const target = place?.matches(field)
    ? place
    : (place?.querySelector<HTMLElement>(field) ?? place?.querySelector<HTMLElement>('button, a'));
  target?.focus();
  return target !== null && target !== undefined;
}

/** Whoever came by a find has the focus on what was found, as soon as it is on the page. */
export function useFoundFocus(): void {
  const { key, state } = useLocation();
  // Written by the palette, or nothing.
  const find = (state as { find?: string } | null)?.find;
  useEffect(() => {
    if (find === undefined) return;
    // The dialog gives the focus back while it closes.
    const isFree = () => document.querySelector('[role="dialog"]') === null;
    let planned = requestAnimationFrame(function look() {
      if (!isFree() || !focusOn(find)) planned = requestAnimationFrame(look);
    });
    const end = setTimeout(() => cancelAnimationFrame(planned), LONGEST_MS);
    return () => {
      cancelAnimationFrame(planned);
      clearTimeout(end);
    };
  }, [find, key]);
}
