import { Checkbox } from '@mantine/core';
import { features } from '@jolly/core/ripple/takenAway';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './SurveyStation.module.css';
import { hadId, haveSeen, lossesTick, useTakenAway } from './useTakenAway';

/** What the next image takes away, before anything is flashed. */
export function LossesSection() {
  const { kit } = useWorkbench();
  const { stored, tick, isDone } = useJob();
  const losses = useTakenAway();
  const { refused, act } = useAct();
  const set = (...ticked: Parameters<typeof tick>) => void act(() => tick(...ticked));
  const which = `${kit.name} ${kit.version}`;
  if (!stored || !losses)
    return (
      <>
        <h2>What the next image takes away</h2>
        <p className="soft">No job is open that flashes another image, so nothing is taken away.</p>
      </>
    );
  const seen = lossesTick(stored.job.changes, losses);
  return (
    <>
      <h2>What the next image takes away</h2>
      <p className="soft">
        What the present image does and {which} with these settings does not is gone once it is flashed; the
        way back brings it back.
      </p>
      <fieldset className={css.ticks}>
        <legend>The present image can do this, as far as you know</legend>
        {features(kit).map(({ key, label }) => (
          <Checkbox
            key={key}
            size="xs"
            label={label}
            checked={isDone(hadId(key))}
            onChange={(event) =>
              set(
                { id: hadId(key), kind: 'survey', subject: key, title: `The present image has: ${label}` },
                event.currentTarget.checked,
              )
            }
          />
        ))}
      </fieldset>
      <Refused why={refused} />
      <h3>What goes</h3>
      {losses.state === 'failed' && <p role="alert">It could not be worked out: {losses.because}</p>}
      {losses.state === 'pending' && <p role="status">Not known yet; one moment.</p>}
      {losses.state === 'known' && losses.list.length === 0 && (
        <p className="soft">
          Nothing that is known of. What the present image can do is known from its settings report and from
          your ticks; a report is read under Present settings.
        </p>
      )}
      <ul aria-label="What goes" className={css.losses}>
        {losses.list.map((loss) => (
          <li key={loss.key}>
            <b>{loss.label}</b> <small>{loss.known}</small>
            <p>
              {loss.lost} {loss.from ? `${kit.name} ${loss.from} will have it.` : ''}
              {loss.off}
            </p>
          </li>
        ))}
      </ul>
      <Checkbox
        label="I know what goes, and go on"
        checked={haveSeen(stored.job, losses)}
        disabled={losses.state !== 'known'}
        onChange={(event) => set(seen, event.currentTarget.checked)}
      />
    </>
  );
}
