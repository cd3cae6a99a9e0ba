import { Progress } from '@mantine/core';
import type { RunProgress } from '../../app/useRunEvents';
import css from './BuildStation.module.css';

/** How far something is that is compiled in the background. */
export function RunProgressBar({ label, progress }: { label: string; progress: RunProgress | undefined }) {
  return (
    <div className={css.progress}>
      <Progress.Root size="lg">
        <Progress.Section value={progress ? (100 * progress.done) / progress.total : 0} aria-label={label} />
      </Progress.Root>
      <p className="figures">
        {progress ? `${progress.done} of ${progress.total}: ${progress.doing}` : 'waiting for the compiler'}
      </p>
    </div>
  );
}
