import { whyOf } from '@jolly/core/text/whyOf';
import { ToldElsewhere } from '@jolly/session/toldElsewhere';
import { useMutation } from '@tanstack/react-query';
import { useCallback, useRef } from 'react';

/** Does something that may be refused. A text that it comes back with says why, and so does an error. */
export type Doing = (() => Promise<string | undefined>) | (() => Promise<void>);

/**
 * An act that may be refused, and the one place where a view hears of it: whether it is on its way, and why the last
 * one was refused, in words. It is on its way until what it changed is known anew, however it ended.
 */
export function useAct(known?: () => Promise<unknown>) {
  const { mutateAsync, isPending, error, reset } = useMutation({
    // The server is on this computer, also when the network is away.
    networkMode: 'always',
    mutationFn: async (done: Promise<unknown>) => {
      const why = await done;
      if (typeof why === 'string') throw new Error(why);
    },
    ...(known && { onSettled: known }),
  });
  const underWay = useRef(0);
  const act = async (doing: Doing): Promise<boolean> => {
    underWay.current += 1;
    try {
      // Begun now, and not a moment later: a key that is pressed next may be undo.
      await mutateAsync((async () => doing())());
      return true;
    } catch {
      return false;
    } finally {
      underWay.current -= 1;
    }
  };
  const forget = useCallback(() => {
    // What is on its way may still be refused, and is heard of then.
    if (underWay.current === 0) reset();
  }, [reset]);
  return {
    busy: isPending,
    refused: error && !(error instanceof ToldElsewhere) ? whyOf(error) : undefined,
    /** Resolves with whether it was done. */
    act,
    /** What was refused is not said any longer. */
    forget,
  };
}
