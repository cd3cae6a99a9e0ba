import type { StoredJob } from '@jolly/contract/endpoints/jobs';
import { Button, Modal, TextInput } from '@mantine/core';
import type { Problem } from '@jolly/core/machine/facts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useStation } from '../../app/frame/StationContext';
import { type StationTeeth, progressOf } from '@jolly/session/progress';
import { useJob } from '../../job/JobProvider';
import type { JobTail } from '../../workbench/coreWorker';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';

/** Pausing, finishing and abandoning; each says what becomes of what is not done. */
export function EndJob() {
  const { stored, setState } = useJob();
  const [asking, setAsking] = useState<'finish' | 'abandon'>();
  const { refused, act } = useAct();
  if (!stored) return null;
  const paused = stored.state === 'paused';
  const to = (state: 'open' | 'paused') => void act(() => setState(state, false));
  const end = (state: 'done' | 'abandoned', putBack: boolean, because?: string) => {
    setAsking(undefined);
    void act(() => setState(state, putBack, because));
  };
  return (
    <section aria-label="The job as a whole">
      <h3>The job as a whole</h3>
      <div className="row">
        <Button size="xs" variant="default" onClick={() => to(paused ? 'open' : 'paused')}>
          {paused ? 'Resume the job' : 'Pause the job'}
        </Button>
        <Button size="xs" variant="default" onClick={() => setAsking('finish')}>
          It is finished
        </Button>
        <Button size="xs" variant="default" color="vermilion" onClick={() => setAsking('abandon')}>
          Abandon it
        </Button>
      </div>
      <Refused why={refused} />
      {asking === 'finish' && (
        <Finish stored={stored} onClose={() => setAsking(undefined)} onFinish={() => end('done', false)} />
      )}
      {asking === 'abandon' && (
        <Abandon
          stored={stored}
          onClose={() => setAsking(undefined)}
          onAbandon={(putBack, because) => end('abandoned', putBack, because)}
        />
      )}
    </section>
  );
}

const open = ({ teeth }: StationTeeth) => teeth.filter(({ state }) => state !== 'done');
const MOST_NAMED = 3;

function named(titles: string[]): string {
  const rest = titles.length - MOST_NAMED;
  return titles.slice(0, MOST_NAMED).join('; ') + (rest > 0 ? `; and ${rest} more` : '');
}

/** What is not done, before a job is called finished. */
function Finish({
  stored,
  onClose,
  onFinish,
}: {
  stored: StoredJob;
  onClose: () => void;
  onFinish: () => void;
}) {
  const workbench = useWorkbench();
  const station = useStation();
  const job = useJob();
  const unfinished = progressOf({ workbench, job, ...station }).filter((entry) => open(entry).length > 0);
  const { title, before, reason, changes, taken } = stored.job;
  // What was never taken over makes nothing due.
  const made = useQuery<JobTail | { problems: Problem[] }>({
    queryKey: ['tailOfTaken', stored.id, stored.version],
    queryFn: async () =>
      workbench.core.tail(
        before,
        changes.filter(({ id }) => taken.includes(id)),
        reason,
      ),
    meta: { what: 'what is left of the job' },
  });
  const known = made.data && 'ripple' in made.data ? made.data.ripple : undefined;
  const due = (known?.consequences ?? []).filter(
    (entry) => entry.kind === 'calibration' && !job.isDone(entry.id),
  ).length;
  return (
    <Modal
      opened
      onClose={onClose}
      size="lg"
      title={`Is “${title}” finished?`}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      {made.data && !known ? (
        <p>
          What is left of it could not be worked out. Take out what the job says is wrong, then finish it.
        </p>
      ) : !job.tail || !known ? (
        <p>What is left of it is being worked out.</p>
      ) : unfinished.length === 0 && job.waiting.length === 0 ? (
        <p>Every station of it is done.</p>
      ) : (
        <>
          <p>Not done yet:</p>
          <ul aria-label="Not done yet">
            {job.waiting.length > 0 && (
              <li>
                <b>The job</b>: {job.waiting.length} of {changes.length} changes were never taken over; the
                machine file does not have them.
              </li>
            )}
            {unfinished.map((entry) => (
              <li key={entry.id}>
                <b>{entry.title}</b>: {entry.teeth.length - open(entry).length} of {entry.teeth.length} done.
                Open: {named(open(entry).map(({ title }) => title))}.
              </li>
            ))}
          </ul>
          {due > 0 && (
            <p>
              {due} {due === 1 ? 'measurement stays' : 'measurements stay'} due at Calibrate, on the shelf and
              in the logbook until {due === 1 ? 'it is' : 'they are'} done.
            </p>
          )}
          <p>You can take this back until another job is opened.</p>
        </>
      )}
      <div className="row">
        <Button variant="default" onClick={onClose}>
          Not yet
        </Button>
        <Button disabled={!job.tail || !known} onClick={onFinish}>
          {unfinished.length > 0 ? 'Finish it all the same' : 'Finish it'}
        </Button>
      </div>
    </Modal>
  );
}

function Abandon({
  stored,
  onClose,
  onAbandon,
}: {
  stored: StoredJob;
  onClose: () => void;
  onAbandon: (putBack: boolean, because?: string) => void;
}) {
  const [because, setBecause] = useState('');
  const { title, changes, taken, done } = stored.job;
  const leads = done.filter((entry) => entry.kind === 'lead').length;
  const abandon = (putBack: boolean) => onAbandon(putBack, because.trim() || undefined);
  return (
    <Modal
      opened
      onClose={onClose}
      title={`Abandon “${title}”?`}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <p>
        The job goes and cannot be opened again, and its plan with it:{' '}
        {changes.length === 1 ? 'one change' : `${changes.length} changes`}
        {done.length > 0 && (done.length === 1 ? ', one tick' : `, ${done.length} ticks`)}. What was set aside
        in it counts again. The logbook keeps a line.
        {leads > 0 &&
          ` ${leads === 1 ? 'One lead was moved by hand already; move it' : `${leads} leads were moved by hand already; move them`} back yourself.`}
      </p>
      <p>
        {taken.length === 0
          ? 'The machine file took none of its changes over; it stays as it is.'
          : `The machine file took ${taken.length} of ${changes.length} over. Take that out again, and what you set by hand since stays; or leave it in.`}
      </p>
      <TextInput
        label="Because"
        value={because}
        maxLength={300}
        onChange={(event) => setBecause(event.currentTarget.value)}
      />
      <div className="row">
        {taken.length === 0 ? (
          <Button color="vermilion" onClick={() => abandon(false)}>
            Abandon it
          </Button>
        ) : (
          <>
            <Button color="vermilion" onClick={() => abandon(true)}>
              Abandon, and take it out
            </Button>
            <Button variant="default" onClick={() => abandon(false)}>
              Abandon, and leave it in
            </Button>
          </>
        )}
      </div>
    </Modal>
  );
}
