import { Button, Checkbox } from '@mantine/core';
import { needTick, surveyTick } from '@jolly/core/ripple/surveyTick';
import { useArmsSteps, useStation } from '../../app/frame/StationContext';
import { useJob } from '../../job/JobProvider';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';

const AT_HAND = 'Everything is at hand';
const stepTick = ({ id }: { id: string }) => `survey:${id}`;

/** What must lie on the table, and the short list before the first plug is pulled. */
export function ReadySection() {
  const { stored, tail, tick, isDone } = useJob();
  const { openArms } = useStation();
  const { refused, act } = useAct();
  const steps = tail?.steps ?? [];
  useArmsSteps(steps.map((step) => ({ ...step, done: isDone(stepTick(step)) })));
  if (!stored || !tail)
    return (
      <>
        <h2>Before you start</h2>
        <p className="soft">No job is open; nothing needs to be fetched.</p>
      </>
    );
  const all = [...tail.needs.map(needTick), ...steps.map(stepTick)];
  const left = all.filter((id) => !isDone(id)).length;
  const ready = surveyTick('ready', stored.job.changes);
  const mark = (id: string, subject: string, title: string, done: boolean) =>
    tick({ id, kind: 'survey', subject, title }, done);
  const set = (...[id, subject, title, done]: Parameters<typeof mark>) =>
    void act(async () => {
      // What is missing again is not at hand, and the train says so.
      if (!done && isDone(ready)) await mark(ready, 'ready', AT_HAND, false);
      return mark(id, subject, title, done);
    });
  return (
    <>
      <h2>On the table</h2>
      <p className="soft">
        Computed from the job. Nothing is worse than a missing crimp with the machine open.
      </p>
      <ul className={css.needs}>
        {tail.needs.map((need) => (
          <li key={need.id}>
            <Checkbox
              checked={isDone(needTick(need))}
              onChange={(event) => set(needTick(need), need.id, need.what, event.currentTarget.checked)}
              label={`${need.count ? `${need.count} × ` : ''}${need.what}`}
              description={need.because}
            />
          </li>
        ))}
      </ul>
      <h3>Then, before the first plug</h3>
      <ol className={css.needs}>
        {steps.map((step) => (
          <li key={step.id}>
            <Checkbox
              checked={isDone(stepTick(step))}
              onChange={(event) => set(stepTick(step), step.id, step.title, event.currentTarget.checked)}
              label={step.title}
              description={step.caution ? `${step.act} Caution: ${step.caution}` : step.act}
            />
          </li>
        ))}
      </ol>
      <div className="row">
        <Button
          size="xs"
          variant="default"
          disabled={steps.length === 0}
          onClick={openArms}
          aria-keyshortcuts="a"
        >
          At arm’s length
        </Button>
        {isDone(ready) && left === 0 ? (
          <span className="proven">Everything is at hand.</span>
        ) : (
          <Button size="xs" onClick={() => set(ready, 'ready', AT_HAND, true)} disabled={left > 0}>
            Everything is at hand
          </Button>
        )}
        {left > 0 && <span className="soft">{left} still to tick</span>}
      </div>
      <Refused why={refused} />
    </>
  );
}
