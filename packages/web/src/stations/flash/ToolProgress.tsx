import { Button, Progress } from '@mantine/core';
import { upperFirst } from '../../ui/letterCase';
import type { useToolRun } from './useToolRun';

/** How far a tool is, and the ways to end it. */
export function ToolProgress({ tool }: { tool: ReturnType<typeof useToolRun> }) {
  const { running, progress, busy, breakOff } = tool;
  if (!running) return null;
  const share = progress ? Math.floor((100 * progress.done) / progress.total) : 0;
  const doing = progress?.doing ?? 'calling';
  return (
    <div role="group" aria-label="The tool">
      <p role="status">
        {upperFirst(doing)}
        {progress && progress.total > 1 && `: ${progress.done} of ${progress.total}`}
      </p>
      <Progress value={share} aria-label={doing} mb={8} />
      <div className="row">
        <Button variant="default" disabled={busy} onClick={() => void breakOff('cancelled')}>
          Cancel
        </Button>
        <Button variant="default" disabled={busy} onClick={() => void breakOff('power lost')}>
          Let the power go, to see what is left
        </Button>
      </div>
    </div>
  );
}
