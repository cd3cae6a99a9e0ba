import { Button } from '@mantine/core';
import css from './Docket.module.css';

/** A change that is shown on the bench and waits to be made. */
export function PreviewNote({ label, make, leave }: { label: string; make: () => void; leave: () => void }) {
  return (
    <div className={css.preview} role="group" aria-label="Change to be made">
      <strong>{label}</strong>
      <span>It is shown on the bench. Make it?</span>
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
