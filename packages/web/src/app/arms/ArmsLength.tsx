import { keyWords } from '@jolly/session/keys';
import { Modal } from '@mantine/core';
import { useHotkeys } from '@mantine/hooks';
import { NotHeard } from '../frame/NotHeard';
import css from './ArmsLength.module.css';

export interface ArmsStep {
  title: string;
  act: string;
  caution?: string;
  done: boolean;
}

/** One step in very large type, for hands that are busy: space goes on, backspace back, enter closes. */
export function ArmsLength({
  title,
  steps,
  open,
  onClose,
  at,
  setAt,
  slot,
  stop,
}: {
  title: string;
  steps: ArmsStep[];
  open: boolean;
  onClose: () => void;
  at: number;
  setAt: (make: (now: number) => number) => void;
  /** Told where a station may show what belongs to the step. */
  slot: (element: HTMLElement | null) => void;
  /** Stops the machine; missing while nothing runs. */
  stop: (() => void) | undefined;
}) {
  const step = steps[Math.min(at, steps.length - 1)];
  const go = (by: number) => setAt((now) => Math.max(0, Math.min(steps.length - 1, now + by)));
  useHotkeys(
    open
      ? [
          ['space', () => go(1)],
          ['backspace', () => go(-1)],
          ['enter', onClose],
        ]
      : [],
    [],
  );
  return (
    <Modal
      opened={open}
      onClose={onClose}
      fullScreen
      title={title}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      {/* Behind this page the frame's own stop is out of reach of a finger. */}
      {stop && (
        <button
          type="button"
          className={css.stop}
          onClick={stop}
          onKeyDown={(event) => event.stopPropagation()}
          aria-keyshortcuts={keyWords('stop')}
        >
          Stop <kbd>{keyWords('stop')}</kbd>
        </button>
      )}
      <NotHeard far />
      {step && <Page step={step} at={at} of={steps.length} go={go} leave={onClose} slot={slot} />}
    </Modal>
  );
}

/** One step as it is read from afar, with the ways on; a station's own lies between. */
function Page({
  step,
  at,
  of,
  go,
  leave,
  slot,
}: {
  step: ArmsStep;
  at: number;
  of: number;
  go: (by: number) => void;
  leave: () => void;
  slot: (element: HTMLElement | null) => void;
}) {
  const count = of > 1 ? `Step ${at + 1} of ${of}${step.done ? ' · done' : ''}` : step.done && 'done';
  return (
    <div className={css.step}>
      {count && <p className={css.count}>{count}</p>}
      <h2>{step.title}</h2>
      {step.caution && (
        <p className={css.caution}>
          <b>Caution:</b> {step.caution}
        </p>
      )}
      <p className={css.act}>{step.act}</p>
      {/* What a station does here keeps its keys for itself. */}
      <div ref={slot} className={css.slot} onKeyDown={(event) => event.stopPropagation()} />
      <div className={css.buttons}>
        {of > 1 && (
          <>
            <button onClick={() => go(-1)} disabled={at === 0}>
              Back <kbd>backspace</kbd>
            </button>
            <button onClick={() => go(1)} disabled={at === of - 1}>
              Next <kbd>space</kbd>
            </button>
          </>
        )}
        <button onClick={leave}>
          Leave this page <kbd>enter</kbd>
        </button>
      </div>
    </div>
  );
}
