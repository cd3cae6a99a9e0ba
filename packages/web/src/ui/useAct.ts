import { whyOf } from '@jolly/core/text/whyOf';
import { useState } from 'react';

/** An act that may be refused: whether it is on its way, and why the last one was refused, in words. */
export function useAct() {
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string>();
  const act = async (what: () => Promise<void>): Promise<void> => {
    setRefused(undefined);
    setBusy(true);
    try {
      await what();
    } catch (error) {
      setRefused(whyOf(error));
    }
    setBusy(false);
  };
  return { busy, refused, act };
}
