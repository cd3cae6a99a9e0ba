import { Button } from '@mantine/core';
import { useJob } from '../../job/JobProvider';
import { whenOf } from '../../ui/when';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';

/** A finished job can be opened again while no other was. */
export function TakeBack() {
  const { finished, reopen } = useJob();
  const { refused, act } = useAct();
  if (!finished) return null;
  return (
    <div className={css.advice} role="group" aria-label="The last job">
      <p>
        “{finished.title}” was finished, {whenOf(finished.endedAt)}.
      </p>
      <Button size="xs" variant="default" onClick={() => void act(reopen)}>
        Take that back: it is open again
      </Button>
      <Refused why={refused} />
    </div>
  );
}
