import { Button, Modal, TextInput } from '@mantine/core';
import { useState } from 'react';
import { useJob } from '../../job/JobProvider';
import css from './SurveyStation.module.css';

/** Pausing, finishing and abandoning; an abandoned job says what becomes of the machine file. */
export function EndJob() {
  const { stored, setState } = useJob();
  const [asking, setAsking] = useState(false);
  const [because, setBecause] = useState('');
  const [refused, setRefused] = useState<string>();
  if (!stored) return null;
  const paused = stored.state === 'paused';
  const doneByHand = stored.job.done.filter((entry) => entry.kind === 'lead').length;
  const to = (state: 'open' | 'paused' | 'done') => void setState(state, false).then(setRefused);
  const abandon = (putBack: boolean) => {
    setAsking(false);
    void setState('abandoned', putBack, because.trim() || undefined).then(setRefused);
  };
  return (
    <section aria-label="The job as a whole">
      <h3>The job as a whole</h3>
      <div className={css.row}>
        <Button size="xs" variant="default" onClick={() => to(paused ? 'open' : 'paused')}>
          {paused ? 'Resume the job' : 'Pause the job'}
        </Button>
        <Button size="xs" variant="default" onClick={() => to('done')}>
          It is finished
        </Button>
        <Button size="xs" variant="default" color="vermilion" onClick={() => setAsking(true)}>
          Abandon it
        </Button>
      </div>
      {refused && (
        <p role="alert" className={css.refused}>
          {refused}
        </p>
      )}
      <Modal opened={asking} onClose={() => setAsking(false)} title={`Abandon “${stored.job.title}”?`}>
        <p>
          The job goes, its {stored.job.changes.length} planned changes with it; the logbook keeps a line.
          {doneByHand > 0 && ` ${doneByHand} leads were moved by hand already; move them back yourself.`}
        </p>
        <TextInput
          label="Because"
          value={because}
          maxLength={300}
          onChange={(event) => setBecause(event.currentTarget.value)}
        />
        <div className={css.row}>
          <Button color="vermilion" onClick={() => abandon(true)}>
            Abandon; the machine file as it was
          </Button>
          <Button variant="default" onClick={() => abandon(false)}>
            Abandon; leave the machine file
          </Button>
        </div>
      </Modal>
    </section>
  );
}
