import { useEffect, useState } from 'react';

/** The wall clock in ms, every second while it is wanted: for what grows old on the screen. */
export function useNow(wanted = true): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!wanted) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [wanted]);
  return now;
}
