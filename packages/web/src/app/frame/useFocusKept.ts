import { useEffect } from 'react';

/** Where focus goes on inside a place: the slip at hand, else its heading, else the place itself. */
function nextIn(place: Element): HTMLElement | undefined {
  const next =
    place.querySelector<HTMLElement>(
      '[data-chosen="true"] button:not(:disabled), [data-chosen="true"] summary',
    ) ?? place.querySelector<HTMLElement>('h1, h2, h3');
  const target = next ?? (place instanceof HTMLElement ? place : undefined);
  if (target && target.tabIndex < 0) target.tabIndex = -1;
  return target;
}

/** A button loses the focus while it is at work or can do nothing more. */
const isOff = (element: HTMLElement): boolean => element.matches(':disabled');
const isAtWork = (element: HTMLElement): boolean => element.matches('[data-loading]');

/**
 * When what has the focus goes away, because it was settled, or its station was left, the focus goes on to what comes next
 * in the same place, or to the heading of the station: never to the page, where a keyboard has to begin anew. A button that
 * was only at work gets it back.
 */
export function useFocusKept(): void {
  useEffect(() => {
    let last: HTMLElement | undefined;
    let place: Element | null = null;
    let wasOff = false;
    const took = ({ target }: FocusEvent) => {
      if (!(target instanceof HTMLElement)) return;
      last = target;
      wasOff = false;
      place = target.closest('aside, main');
    };
    const look = () => {
      if (!last || document.activeElement !== document.body) return;
      if (document.querySelector('[role="dialog"]')) return;
      if (last.isConnected) {
        if (isAtWork(last)) return;
        if (!isOff(last)) return wasOff ? last.focus({ preventScroll: true }) : undefined;
      }
      const home = place?.isConnected ? place : document.querySelector('main');
      if (!home) return;
      last = undefined;
      nextIn(home)?.focus({ preventScroll: place === home });
    };
    // Looked at once a frame at most: the bench draws many times a second. The browser takes the focus from what was
    // switched off at the end of a frame, after what is planned for it: so it is looked at in the one behind, too.
    let due = 0;
    let planned = 0;
    const lookAndPlan = () => {
      look();
      due -= 1;
      planned = due > 0 ? requestAnimationFrame(lookAndPlan) : 0;
    };
    const observer = new MutationObserver(() => {
      if (!last) return;
      wasOff ||= last.isConnected && isOff(last);
      if (last.isConnected && !wasOff) return;
      due = 2;
      planned ||= requestAnimationFrame(lookAndPlan);
    });
    document.addEventListener('focusin', took);
    observer.observe(document.body, { childList: true, subtree: true, attributeFilter: ['disabled', 'data-loading'] }); // prettier-ignore
    return () => {
      document.removeEventListener('focusin', took);
      observer.disconnect();
      cancelAnimationFrame(planned);
    };
  }, []);
}
