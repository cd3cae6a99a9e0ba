import { Button, CloseButton, Modal } from '@mantine/core';
import { underway } from '@jolly/core/bringup/boardReading';
import { useEffect, useRef, useState } from 'react';
import { useBlocker } from 'react-router';
import { useWorkbench } from '../workbench/Workbench';
import { whenOf } from '../ui/when';
import { usePowered } from './BenchProvider';
import css from './LeavingBench.module.css';
import { type Left, noteLeft, takeLeft } from './leaving';

/**
 * The bench lives in this window: when the window goes, the power goes. That is said before it happens while
 * something is hot or moves, and again when one comes back.
 */
export function LeavingBench() {
  const { machine } = useWorkbench();
  const readings = usePowered((now) => now.readings);
  const [left, setLeft] = useState<Left>();
  const [warned, setWarned] = useState(false);
  const told = underway(readings);
  const now = useRef(told);
  now.current = told;
  const id = machine.id;

  useEffect(() => setLeft(takeLeft(id)), [id]);
  useEffect(() => {
    const ask = (event: BeforeUnloadEvent) => {
      if (now.current.length === 0) return;
      event.preventDefault();
      setWarned(true);
    };
    const gone = () => noteLeft(id, now.current);
    window.addEventListener('beforeunload', ask);
    window.addEventListener('pagehide', gone);
    return () => {
      window.removeEventListener('beforeunload', ask);
      window.removeEventListener('pagehide', gone);
    };
  }, [id]);

  const blocker = useBlocker(
    ({ nextLocation }) => now.current.length > 0 && !nextLocation.pathname.startsWith(`/machines/${id}/`),
  );
  const leave = () => {
    noteLeft(id, now.current);
    blocker.proceed?.();
  };

  return (
    <>
      {left && (
        <p className={css.note} role="status">
          <span>
            <b>The bench was switched off when its window went</b>, {whenOf(new Date(left.at).toISOString())}.
            Under way then: {left.what.join('; ')}. Heat went off; where the axes stand is not known, home
            them anew.
          </span>
          <CloseButton aria-label="I have read it" onClick={() => setLeft(undefined)} />
        </p>
      )}
      {warned && told.length > 0 && (
        <p className={css.note} role="status">
          <span>
            <b>The bench is still on</b>: {told.join('; ')}. Closing or reloading this window switches it off:
            heat goes off, and where the axes stand is forgotten.
          </span>
          <CloseButton aria-label="I have read it" onClick={() => setWarned(false)} />
        </p>
      )}
      <Modal
        opened={blocker.state === 'blocked'}
        onClose={() => blocker.reset?.()}
        title={`${machine.name} is not at rest`}
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        <p>
          Now: {told.join('; ')}. Leaving this machine switches its bench off: heat goes off, and where the
          axes stand is forgotten.
        </p>
        <div className={css.choices}>
          <Button onClick={() => blocker.reset?.()}>Stay here</Button>
          <Button color="vermilion" variant="default" onClick={leave}>
            Switch it off and leave
          </Button>
        </div>
      </Modal>
    </>
  );
}
