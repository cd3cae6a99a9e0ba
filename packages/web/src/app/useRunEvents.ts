import { useEffect, useState } from 'react';

/** How far something in the background is. */
export interface RunProgress {
  done: number;
  total: number;
  doing: string;
}

/** Follows something that runs in the background, while it does; `ended` is called when it is over. */
export function useRunEvents(url: string | undefined, ended: () => void): RunProgress | undefined {
  const [progress, setProgress] = useState<RunProgress>();
  useEffect(() => {
    if (url === undefined) return;
    const events = new EventSource(url);
    events.addEventListener('progress', (event) => {
      // Our own server's event, by the contract.
      setProgress(JSON.parse((event as MessageEvent<string>).data) as RunProgress);
    });
    events.addEventListener('ended', () => {
      events.close();
      setProgress(undefined);
      ended();
    });
    return () => events.close();
  }, [url, ended]);
  return progress;
}
