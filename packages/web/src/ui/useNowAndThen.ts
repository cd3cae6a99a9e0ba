import { useEffect, useRef, useState } from 'react';

/** What a value is, looked at no more often than every so many milliseconds: for what is dear to draw. */
export function useNowAndThen<T>(value: T, everyMs: number): T {
  const [shown, setShown] = useState(value);
  const latest = useRef(value);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    latest.current = value;
    timer.current ??= setTimeout(() => {
      timer.current = undefined;
      setShown(latest.current);
    }, everyMs);
  }, [value, everyMs]);
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      timer.current = undefined;
    },
    [],
  );
  return shown;
}
