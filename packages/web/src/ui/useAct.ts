import { whyOf } from '@jolly/core/text/whyOf';
import { useState } from 'react';

/**
 * An act that may be refused: whether it is on its way, and why the last one was refused, in words. It is on its way
 * until what it changed is known anew, however it ended.
 */
export function useAct(known: () => Promise<unknown> = () => Promise.resolve()) {
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
    await known();
    setBusy(false);
  };
  return { busy, refused, act };
}
