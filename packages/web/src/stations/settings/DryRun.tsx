import { Button } from '@mantine/core';
import css from './BedPlan.module.css';
import type { ShownRun } from './useDryRun';

/** Homing tried on the bench with the image of these settings: what each axis meets before any real motor turns. */
export function DryRun({ run }: { run: ShownRun }) {
  return (
    <section aria-label="Dry run of homing" className={css.dryRun}>
      <h2>Homing, tried on the bench</h2>
      <p>An image of these settings is built and homes the machine on the bench. Nothing real turns.</p>
      <div className={css.clips}>
        <Button size="xs" onClick={run.start} disabled={run.doing !== 'nothing'}>
          Try homing
        </Button>
        {run.doing !== 'nothing' && (
          <Button size="xs" variant="default" onClick={run.stop}>
            Stop
          </Button>
        )}
        {run.doing === 'building' && <span role="status">The image is being built.</span>}
        {run.z !== undefined && <span className="figures">Z {run.z.toFixed(1)} mm</span>}
      </div>
      {run.notTried !== undefined && <p role="alert">Not tried: {run.notTried}</p>}
      <ol aria-live="polite">
        {run.legs.slice(0, run.at).map((leg) => (
          <li key={leg.axis} data-bad={leg.outcome !== 'met'}>
            {leg.what}
          </li>
        ))}
      </ol>
    </section>
  );
}
