import { useEffect } from 'react';
import { isTyped } from './useKeys';

/**
 * Escape leaves a field, so that the keys of the window are heard again: at once where nothing was typed into it, else with
 * its second press, the first being the field's own.
 */
export function useLeaveField(): void {
  useEffect(() => {
    let [began, escaped] = ['', false];
    const taken = ({ target }: FocusEvent) => {
      [began, escaped] = [target instanceof HTMLInputElement ? target.value : '', false];
    };
    const pressed = ({ key, target }: KeyboardEvent) => {
      const wasEscaped = escaped;
      escaped = key === 'Escape';
      if (!escaped || !(target instanceof HTMLInputElement) || !isTyped(target)) return;
      if (document.querySelector('[role="dialog"]') || (target.value !== began && !wasEscaped)) return;
      const heading = target.closest('main, aside')?.querySelector<HTMLElement>('h1, h2, h3');
      if (!heading) return target.blur();
      heading.tabIndex = -1;
      heading.focus({ preventScroll: true });
    };
    document.addEventListener('focusin', taken);
    document.addEventListener('keydown', pressed);
    return () => {
      document.removeEventListener('focusin', taken);
      document.removeEventListener('keydown', pressed);
    };
  }, []);
}
