import { type HotkeyItem, useHotkeys } from '@mantine/hooks';

const NOT_TYPED_IN = new Set(['checkbox', 'radio', 'button', 'submit', 'file', 'range']);

/** Whether keys that are pressed here are meant as text, or choose in a list. */
function takesKeys(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return !NOT_TYPED_IN.has(target.type);
  return target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName);
}

/** Keys of the whole window. They rest while somebody types, but not while a tick box has the focus. */
export function useKeys(items: HotkeyItem[]): void {
  useHotkeys(
    items.map(([key, act, options]): HotkeyItem => [
      key,
      (event) => {
        if (takesKeys(event.target)) return;
        if (options?.preventDefault !== false) event.preventDefault();
        act(event);
      },
      { ...options, preventDefault: false },
    ]),
    [],
  );
}
