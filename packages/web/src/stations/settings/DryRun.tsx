import { Button } from '@mantine/core';
import css from './BedPlan.module.css';
import type { ShownRun } from './useDryRun';

const BAD = new Set(['met at once', 'ran into the frame', 'ran out', 'not begun']);

/** Homing tried on the bench's plant: what each axis would meet, before any real motor turns. */
export function DryRun({ run }: { run: ShownRun }) {
  return (
    <section aria-label="Dry run of homing" className={css.dryRun}>
      <h2>Homing, tried on the bench</h2>
      <p>The plant moves as these settings would move it. No image is needed and nothing real turns.</p>
      <div className={css.clips}>
        <Button size="xs" onClick={run.start} disabled={run.running}>
          Try homing
        </Button>
        {run.running && (
          <Button size="xs" variant="default" onClick={run.stop}>
            Stop
          </Button>
        )}
        {run.z !== undefined && <span className="figures">Z {run.z.toFixed(1)} mm</span>}
      </div>
      <ol aria-live="polite">
        {run.legs.slice(0, run.at).map((leg) => (
          <li key={leg.axis} data-bad={BAD.has(leg.outcome)}>
            {leg.what}
          </li>
        ))}
      </ol>
    </section>
  );
}
