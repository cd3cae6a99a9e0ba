import { useEffect, useRef, useState } from 'react';

export interface Typed {
  text: string;
  setText: (text: string) => void;
  /** Says that what is typed was left, and may give way to what is kept of it. */
  leave: () => void;
}

/**
 * The text of a field that is kept when it is left. What is kept shows itself in the field, also when it was undone or
 * comes from elsewhere; but never over what was typed since.
 */
export function useTyped(shown: string): Typed {
  const [text, setText] = useState(shown);
  const left = useRef(shown);
  useEffect(() => {
    const was = left.current;
    setText((now) => (now === was ? shown : now));
    left.current = shown;
  }, [shown]);
  return {
    text,
    setText,
    leave: () => {
      left.current = text;
    },
  };
}
