import { Button } from '@mantine/core';
import type { Preview } from '@jolly/session/preview';
import { previewInWords } from '@jolly/session/previewInWords';
import { useMemo } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import css from './Docket.module.css';

/** So many lines are read at a glance. */
const MOST_LINES = 6;

/** A change that waits to be made, with what would be otherwise then. It stays in sight however far the docket is scrolled. */
export function PreviewNote({
  preview,
  make,
  leave,
}: {
  preview: Preview;
  make: () => void;
  leave: () => void;
}) {
  const workbench = useWorkbench();
  const lines = useMemo(() => previewInWords(workbench, preview), [workbench, preview]);
  return (
    <div className={css.preview} role="group" aria-label="Change to be made">
      <strong>{preview.label}</strong>
      {lines.length > 0 ? (
        <ul>
          {lines.slice(0, MOST_LINES).map((line) => (
            <li key={line}>{line}</li>
          ))}
          {lines.length > MOST_LINES && <li>and {lines.length - MOST_LINES} more</li>}
        </ul>
      ) : (
        <span>No setting and no finding changes by it.</span>
      )}
      <div>
        <Button size="xs" onClick={make}>
          Make the change
        </Button>
        <Button size="xs" variant="default" onClick={leave}>
          Leave it
        </Button>
      </div>
    </div>
  );
}
