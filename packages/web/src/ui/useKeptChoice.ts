import { type FocusEvent, type KeyboardEvent, useRef, useState } from 'react';

/**
 * A choice that is kept once it is made: what the mouse picks, at once; what keys pass on their way through the list, when
 * Enter is pressed or the list is left. Escape puts back what was there.
 */
export function useKeptChoice(value: string, onKeep: (chosen: string) => void) {
  const [passing, setPassing] = useState<string>();
  const byKey = useRef(false);
  const keep = (chosen: string | undefined) => {
    setPassing(undefined);
    if (chosen !== undefined && chosen !== value) onKeep(chosen);
  };
  return {
    shown: passing ?? value,
    /** Undefined where nothing waits to be kept. */
    passing,
    choose: (chosen: string) => (byKey.current ? setPassing(chosen) : keep(chosen)),
    handlers: {
      onPointerDown: () => void (byKey.current = false),
      onKeyDown: (event: KeyboardEvent) => {
        // An opened list is picked from with these.
        byKey.current = event.key !== ' ' && event.key !== 'Enter';
        if (event.key === 'Enter') keep(passing);
        if (event.key === 'Escape') setPassing(undefined);
      },
      onBlur: (event: FocusEvent) => {
        byKey.current = false;
        if (!event.currentTarget.contains(event.relatedTarget)) keep(passing);
      },
    },
  };
}

export const KEEP_HINT = 'Enter keeps it, Escape does not.';
