import type { Change } from './change';
import type { Ripple } from './ripple';

/** Why somebody wants to start a job. Only the first three are reasons to flash. */
export const REASONS = {
  part: { title: 'A part changed or will change', good: true },
  feature: { title: 'A feature is missing', good: true },
  bug: { title: 'A bug hits me, and a newer release fixes it', good: true },
  newer: { title: 'A newer version is out', good: false },
  tidy: { title: 'It has been a while; I want it up to date', good: false },
} as const;
export type Reason = keyof typeof REASONS;

export interface Advice {
  verdict: 'go' | 'leave it alone';
  because: string;
  /** Where only hands and a record are needed. */
  noFlash?: string;
  /** Where the board can be flashed before a lead is moved. */
  deskFirst?: string;
}

/** Changes that alter neither an image nor a proof: hands and a line in the logbook are enough. */
const JUST_DO_IT = new Set(['plate', 'belt']);

/** Whether there is a reason to touch the machine at all. Firmware is not an app to keep up to date. */
export function advise(reason: Reason, changes: readonly Change[], ripple: Ripple | undefined): Advice {
  const onlyVersion = changes.every((change) => change.kind === 'kit-version');
  if (!REASONS[reason].good && onlyVersion)
    return {
      verdict: 'leave it alone',
      because:
        'No part changed, no feature is missing and no bug hits you. A new image can only cost you tuned values and an evening.',
    };
  if (changes.length === 0)
    return {
      verdict: 'leave it alone',
      because:
        reason === 'part'
          ? 'Say which part changed. As long as none has, there is nothing to do.'
          : 'Say what is missing or what the release fixes. Without it there is nothing to do.',
    };
  if (changes.every((change) => JUST_DO_IT.has(change.kind)))
    return {
      verdict: 'leave it alone',
      because:
        'A part of the same kind changes nothing the firmware knows. Fit it, move the axis by hand once, and write a line in the logbook.',
    };
  // What cannot be done says nothing of the image.
  if (ripple && !ripple.flash && ripple.contradictions.length === 0)
    return {
      verdict: 'go',
      because: 'It has consequences, but not for the firmware.',
      noFlash: 'No new image is needed: the settings stay as they are. Do not flash.',
    };
  return {
    verdict: 'go',
    because: REASONS[reason].good
      ? `${REASONS[reason].title}: reason enough.`
      : 'The changes are reason enough.',
    ...(ripple?.touched.has('board') && {
      deskFirst:
        'You may flash the new board on the desk, before it is wired; then Wiring comes after Flash.',
    }),
  };
}
