import type { Client } from '@jolly/contract/client';
import type { JobAnswer, JobOfMachine, JobToSave } from '@jolly/contract/endpoints/jobs';
import type { Job } from '@jolly/core/ripple/job';
import { sameValue } from '@jolly/core/tree/sameValue';
import { partsOf } from './deeds';
import type { Outbox } from './outbox';
import { isUnjudged, type Presence, ServerGone } from './presence';
import { inTurn, type Watched } from './store';
import { sayOnce } from './sayOnce';
import { whyOf } from '@jolly/core/text/whyOf';

export interface JobPorts {
  client: Pick<Client, 'saveJob'>;
  presence: Watched<Presence>;
  /** Holds at most one: the newest state of the job. */
  outbox: Outbox<JobToSave>;
  shown: {
    now(): JobOfMachine | undefined;
    show(job: JobOfMachine): void;
    reload(): Promise<unknown>;
  };
  say: (text: string) => void;
}

/** What can be changed of an open job. */
export type JobChange = Partial<Pick<Job, 'title' | 'changes' | 'taken' | 'done'>>;

export interface JobSaving {
  /**
   * Changes the open job, from what the change before left. What would change the machine file is refused while the
   * server is gone: it works that out. @throws {Refusal}
   */
  save(make: (now: Job) => JobChange): Promise<'saved' | 'waits'>;
  /** Sends what waits, as soon as the server is there. */
  send(): Promise<void>;
}

/** How the machine file followed a job where it does not just do as planned. */
export const followedInWords = ({ kept, left }: Pick<JobAnswer, 'kept' | 'left'>): string[] => [
  ...kept.map((path) => `Kept as you set it since: ${path}`),
  ...(left.length > 0 ? [`Set for the board before, and not for this one: ${left.join(', ')}`] : []),
];

/** Saves an open job. While the server is gone, ticks and planned changes are shown and the newest state waits. */
export function jobSaving(id: string, { client, presence, outbox, shown, say }: JobPorts): JobSaving {
  const turn = inTurn();
  const { told, fine } = sayOnce(say);

  async function put(job: JobToSave): Promise<void> {
    const answer = await client.saveJob({ id }, job);
    // What was done while it was on its way goes on waiting, over what is saved now.
    const left = outbox.now().filter((entry) => entry !== job);
    outbox.put(left.map((entry) => ({ ...entry, version: answer.job.version })));
    if (left.length === 0) shown.show({ job: answer.job, finished: null });
    for (const line of followedInWords(answer)) say(line);
  }

  function hold(job: JobToSave): void {
    outbox.put([job]);
    const before = shown.now();
    if (before?.job) shown.show({ ...before, job: { ...before.job, job: { ...before.job.job, ...job } } });
  }

  async function saveNow(make: (now: Job) => JobChange): Promise<'saved' | 'waits'> {
    const open = shown.now()?.job;
    if (!open) throw new Error('no job is open');
    const { title, changes, taken, done } = { ...open.job, ...make(open.job) };
    const job: JobToSave = { version: open.version, title, changes, taken, done };
    try {
      if (outbox.now().length > 0 || !presence.now().here) throw new ServerGone();
      await put(job);
      return 'saved';
    } catch (error) {
      const takesOver = !sameValue(taken, open.job.taken);
      if (!(error instanceof ServerGone) || takesOver) throw error;
      hold(job);
      return 'waits';
    }
  }

  return {
    save: (make) => turn(() => saveNow(make)),
    // One after another: two at once would meet each other, and one be told that it is stale.
    send: () =>
      turn(async () => {
        const [next] = outbox.now();
        if (!next || !shown.now()?.job) return;
        try {
          await put(next);
          fine();
        } catch (error) {
          if (error instanceof ServerGone) return;
          if (isUnjudged(error)) return told(`What was done in the job waits: ${whyOf(error)}`);
          outbox.put([]);
          await shown.reload();
          // It had arrived, and only the answer was lost.
          const kept = shown.now()?.job?.job;
          if (kept && sameValue(partsOf(kept), partsOf(next))) return;
          say(`What was done in the job meanwhile is not saved: ${whyOf(error)}`);
        }
      }),
  };
}
