import { useEffect, useRef } from 'react';

/** A text field takes back its own typing until there is nothing left in it. */
function undoesItself(target: EventTarget | null): boolean {
  if (target instanceof HTMLTextAreaElement) return target.value !== '';
  if (target instanceof HTMLInputElement)
    return ['text', 'search', 'number', 'email', 'url', 'tel'].includes(target.type) && target.value !== '';
  return target instanceof HTMLElement && target.isContentEditable && target.textContent !== '';
}

/** Ctrl or ⌘ with Z takes the last change back, with Shift or as Y does it again; in a text field that is the field's own. */
export function useUndoKey(acts: { undo: () => void; redo: () => void }): void {
  const now = useRef(acts);
  now.current = acts;
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      const key = event.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      if (undoesItself(event.target) || document.querySelector('[role="dialog"]') !== null) return;
      event.preventDefault();
      if (key === 'y' || event.shiftKey) now.current.redo();
      else now.current.undo();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, []);
}
