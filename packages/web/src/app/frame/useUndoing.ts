import { useMemo } from 'react';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { useWatched } from '../useWatched';

/** What would be taken back or done again, in words, and the ways to do it. */
export interface Undoing {
  undoes?: string | undefined;
  redoes?: string | undefined;
  undo(): Promise<void>;
  redo(): Promise<void>;
}

/**
 * What was done last, at the machine's file or at its job, is taken back first. Where this window did nothing yet, it is the
 * last change of the file, whoever made it.
 */
export function useUndoing(): Undoing {
  const workbench = useWorkbench();
  const { turn } = useJob();
  const { done, undone } = useWatched(workbench.deeds);
  const [last, next] = [done.at(-1), undone.at(-1)];
  const { undoes, redoes, undo, redo } = workbench;
  return useMemo(
    () => ({
      undoes: last?.kind === 'job' ? last.label : undoes,
      redoes: next?.kind === 'job' ? next.label : redoes,
      undo: () => (last?.kind === 'job' ? turn(last, 'undo') : undo()),
      redo: () => (next?.kind === 'job' ? turn(next, 'redo') : redo()),
    }),
    [last, next, undoes, redoes, undo, redo, turn],
  );
}
