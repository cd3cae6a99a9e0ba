import type { JobOfMachine, JobToSave, StoredJob } from '@jolly/contract/endpoints/jobs';
import { Refusal } from '@jolly/contract/refusal';
import type { Done, Job } from '@jolly/core/ripple/job';
import { describe, expect, it } from 'vitest';
import { demoMachine } from '../../core/test/fixtures/demo';
import { jobSaving } from '../src/jobSaving';
import { outboxes } from '../src/outbox';
import { type Presence, ServerGone } from '../src/presence';
import { store } from '../src/store';
import { memory } from './fixtures/twoWindows';

const AT = '2026-11-26T08:00:00.000Z';
const gone = { here: false, since: 0 } as const;
const here = { here: true } as const;
const ticked = (id: string): Done => ({ id, kind: 'lead', subject: id, title: id, at: AT });
const tick =
  (id: string) =>
  ({ done }: Job) => ({ done: [...done, ticked(id)] });

/** A window with an open job, and the server behind it. */
function openJob() {
  const machine = demoMachine('plover');
  const job: Job = {
    jolly: 'job/1', title: 'A job', reason: 'part', before: machine, changes: [], taken: [], done: [],
  }; // prettier-ignore
  let stored: StoredJob = { id: 1, state: 'open', version: 1, openedAt: AT, job };
  const ways: ('lost' | 'unheard' | 'in trouble')[] = [];
  const presence = store<Presence>(here);
  const outbox = outboxes(memory()).open<JobToSave>('job:plover');
  const shown = store<JobOfMachine | undefined>({ job: stored, finished: null });
  const tape: string[] = [];
  const saving = jobSaving('plover', {
    client: {
      saveJob: (_at, { version, ...changed }) => {
        const way = ways.shift();
        if (way === 'lost') return Promise.reject(new ServerGone());
        if (way === 'in trouble') return Promise.reject(new Refusal('disk-full', 'the disk is full'));
        if (version !== stored.version)
          return Promise.reject(new Refusal('stale', 'this job was changed elsewhere'));
        stored = { ...stored, version: version + 1, job: { ...stored.job, ...changed } };
        if (way === 'unheard') return Promise.reject(new ServerGone());
        return Promise.resolve({
          job: stored,
          machine: { machine, version: 1, changedAt: AT, at: 'shelf' },
          kept: [],
          left: [],
        });
      },
    },
    presence,
    outbox,
    shown: {
      now: shown.now,
      show: shown.set,
      reload: () => Promise.resolve(shown.set({ job: stored, finished: null })),
    },
    say: (text) => tape.push(text),
  });
  const ids = ({ done }: Job) => done.map(({ id }) => id);
  return {
    saving,
    presence,
    outbox,
    tape,
    ways,
    kept: () => ids(stored.job),
    seen: () => ids(shown.now()?.job?.job ?? job),
    elsewhere: () => (stored = { ...stored, version: stored.version + 1 }),
  };
}

describe('an open job', () => {
  it('keeps ticks that are made faster than they are saved', async () => {
    const { saving, kept } = openJob();
    await Promise.all(['a', 'b', 'c'].map((id) => saving.save(tick(id))));
    expect(kept()).toEqual(['a', 'b', 'c']);
  });

  it('shows what is done while the server is gone, and sends it once', async () => {
    const { saving, presence, outbox, kept, seen } = openJob();
    presence.set(gone);
    expect(await saving.save(tick('a'))).toBe('waits');
    expect(await saving.save(tick('b'))).toBe('waits');
    expect([kept(), seen(), outbox.now().length]).toEqual([[], ['a', 'b'], 1]);
    presence.set(here);
    await saving.send();
    expect([kept(), seen(), outbox.now().length]).toEqual([['a', 'b'], ['a', 'b'], 0]);
    await saving.send();
    expect(kept()).toEqual(['a', 'b']);
  });

  it('what is done as the server comes back goes with what waited, and nothing of it is lost', async () => {
    const { saving, presence, outbox, kept } = openJob();
    presence.set(gone);
    await saving.save(tick('a'));
    presence.set(here);
    expect(await saving.save(tick('b'))).toBe('waits');
    expect(outbox.now()).toHaveLength(1);
    await saving.send();
    await saving.send();
    expect([kept(), outbox.now()]).toEqual([['a', 'b'], []]);
  });

  it('waits when the answer does not come', async () => {
    const { saving, ways, outbox } = openJob();
    ways.push('lost');
    expect(await saving.save(tick('a'))).toBe('waits');
    expect(outbox.now()).toHaveLength(1);
  });

  it('whose answer was lost is kept, and nothing else is said', async () => {
    const { saving, ways, outbox, kept, seen, tape } = openJob();
    ways.push('unheard');
    expect(await saving.save(tick('a'))).toBe('waits');
    await saving.send();
    expect([outbox.now(), kept(), seen(), tape]).toEqual([[], ['a'], ['a'], []]);
  });

  it('waits while the disk of the server is full, and says so once', async () => {
    const { saving, presence, ways, outbox, kept, tape } = openJob();
    presence.set(gone);
    await saving.save(tick('a'));
    presence.set(here);
    ways.push('in trouble', 'in trouble');
    await saving.send();
    await saving.send();
    expect([outbox.now().length, tape]).toEqual([1, ['What was done in the job waits: the disk is full']]);
    await saving.send();
    expect([outbox.now().length, kept()]).toEqual([0, ['a']]);
  });

  it('refuses to take a change over while the server is gone: it works that out', async () => {
    const { saving, presence, outbox } = openJob();
    presence.set(gone);
    await expect(saving.save(() => ({ taken: ['x'] }))).rejects.toBeInstanceOf(ServerGone);
    expect(outbox.now()).toEqual([]);
  });

  it('that another window changed is told, and what waited is let go', async () => {
    const { saving, presence, outbox, tape, elsewhere, seen } = openJob();
    presence.set(gone);
    await saving.save(tick('a'));
    elsewhere();
    presence.set(here);
    await saving.send();
    expect([outbox.now(), seen()]).toEqual([[], []]);
    expect(tape.at(-1)).toMatch(/is not saved: this job was changed elsewhere/);
  });

  it('a refusal reaches whoever saved, and the next save goes on', async () => {
    const { saving, elsewhere, kept } = openJob();
    elsewhere();
    await expect(saving.save(tick('a'))).rejects.toMatchObject({ code: 'stale' });
    expect(kept()).toEqual([]);
  });
});
