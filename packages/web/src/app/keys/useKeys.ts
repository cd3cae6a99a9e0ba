import { type KeyAct, KEYS, type KeyBinding } from '@jolly/session/keys';
import { type HotkeyItem, useHotkeys } from '@mantine/hooks';
import { singleKeys } from './singleKeys';

const NOT_TYPED_IN = new Set(['checkbox', 'radio', 'button', 'submit', 'file', 'range']);

/** Whether text is typed into a field. */
export const isTyped = ({ type }: HTMLInputElement): boolean => !NOT_TYPED_IN.has(type);

/** Whether keys that are pressed here are meant as text, or choose in a list. */
function takesKeys(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return isTyped(target);
  return target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName);
}

export type KeyActs = Partial<Record<KeyAct, (event: KeyboardEvent) => void>>;

/** An open dialog has keys of its own; behind it only the stop is heard. */
const behindDialog = (name: string): boolean =>
  name !== ('stop' satisfies KeyAct) && document.querySelector('[role="dialog"]') !== null;

/** Gives keys of the window their acts. They rest while somebody types, but not while a tick box has the focus; single
 * ones also while they are switched off. */
export function useKeys(acts: KeyActs): void {
  const items = Object.entries(acts).flatMap(([name, act]) => {
    const { keys, shared }: KeyBinding = KEYS[name as KeyAct]; // by the type of `acts`
    return keys.map((key): HotkeyItem => [
      key,
      (event) => {
        if (!key.startsWith('mod+') && !singleKeys.on.now()) return;
        if (takesKeys(event.target) || behindDialog(name)) return;
        if (!shared) event.preventDefault();
        act(event);
      },
      { preventDefault: false },
    ]);
  });
  useHotkeys(items, []);
}
