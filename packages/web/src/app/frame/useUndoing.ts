import { Refusal } from '@jolly/contract/refusal';
import { whyOf } from '@jolly/core/text/whyOf';
import type { Deed, Deeds } from '@jolly/session/deeds';
import type { Way } from '@jolly/session/way';
import { type KeptDeed, turnKept } from '@jolly/session/keptDeeds';
import { inTurn } from '@jolly/session/store';
import { useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { useJob } from '../../job/JobProvider';
import { useWatched } from '../../ui/useWatched';
import { useWorkbench } from '../../workbench/Workbench';
import { tape } from '../tape/tape';
import { askAnew, askAnewOf, type HeldOfMachine } from '../../api/held';

/** What would be taken back or done again, in words, and the ways to do it. */
export interface Undoing {
  undoes?: string | undefined;
  redoes?: string | undefined;
  undo(): Promise<void>;
  redo(): Promise<void>;
}

/** What was done last in this window goes back first: at the machine's file, at its job, or at what is kept beside them. */
export function useUndoing(): Undoing {
  const { deeds, turn } = useWorkbench();
  const { turn: turnJob, stored: job } = useJob();
  const turnOther = useTurnKept();
  const jobKnown = job !== undefined;
  const oneByOne = useMemo(() => inTurn(), []);
  const { last, next } = ends(useWatched(deeds), jobKnown);
  return useMemo(() => {
    const go = (way: Way) =>
      oneByOne(async () => {
        // What was done in this very moment may still be on its way: it is what is taken back, and not what was before it.
        await deeds.settled();
        const now = ends(deeds.now(), jobKnown);
        const deed = way === 'undo' ? now.last : now.next;
        if (deed?.kind === 'machine') await turn(deed, way);
        else if (deed?.kind === 'job') await turnJob(deed, way);
        else if (deed) await turnOther(deed, way);
      });
    return { undoes: last?.label, redoes: next?.label, undo: () => go('undo'), redo: () => go('redo') };
  }, [last, next, deeds, jobKnown, oneByOne, turn, turnJob, turnOther]);
}

/** What would go back next, and what would be done again. What was done at a job waits until the job is known. */
function ends({ done, undone }: ReturnType<Deeds['now']>, jobKnown: boolean) {
  const known = (deed: Deed | undefined) => (deed?.kind === 'job' && !jobKnown ? undefined : deed);
  return { last: known(done.at(-1)), next: known(undone.at(-1)) };
}

const SHOWN_IN: Readonly<Record<KeptDeed['kind'], readonly HeldOfMachine[]>> = {
  photo: ['photos'],
  note: ['entries'],
  measured: ['calibrations', 'entries'],
};

/** Takes back what was kept beside file and job. What the server refuses cannot go, now or later. */
function useTurnKept() {
  const { machine, deeds } = useWorkbench();
  const { write } = tape;
  const client = useQueryClient();
  const { id } = machine;
  return useMemo(
    () => async (deed: KeptDeed, way: Way) => {
      try {
        deeds.goes(way, await turnKept(api, id, deed, way));
        write('done', `${way === 'undo' ? 'Undone' : 'Done again'}: ${deed.label}`);
      } catch (error) {
        if (error instanceof Refusal) deeds.cannotGo(way);
        write('done', `Could not ${way} “${deed.label}”: ${whyOf(error)}`);
      }
      await askAnewOf(client, id, ...SHOWN_IN[deed.kind]);
      void askAnew(client, 'machines');
    },
    [client, deeds, id, write],
  );
}
