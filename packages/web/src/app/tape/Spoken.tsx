import { VisuallyHidden } from '@mantine/core';
import { useTapeLines } from './tape';

/** The one place that says aloud what has been done: saved, undone, built. What the board says by itself stays on the tape. */
export function Spoken() {
  const lines = useTapeLines();
  const last = lines.findLast(({ kind }) => kind === 'done');
  return (
    <VisuallyHidden aria-live="polite" aria-atomic="true" data-spoken>
      {/* Anew for each, so that the same words twice are said twice. */}
      <span key={last?.id}>{last?.text}</span>
    </VisuallyHidden>
  );
}
