import type { BoardOnBench } from '@jolly/contract/endpoints/board';
import { unguarded } from '@jolly/core/settings/guardsOff';
import { useMemo } from 'react';
import { useWorkbench } from '../../workbench/Workbench';
import css from './MachineFrame.module.css';

/** A guard that is off, in the machine file or in the image on the board, is said on every screen, set aside or not. */
export function Unguarded({ board }: { board: BoardOnBench | undefined }) {
  const { facts, settings } = useWorkbench();
  const off = useMemo(
    () => unguarded(facts, settings, board?.guardsOff),
    [facts, settings, board?.guardsOff],
  );
  if (off.length === 0) return null;
  const now = off.some(({ on }) => on === 'board');
  return (
    <p className={css.unguarded} role="status">
      <b>{now ? 'No thermal guard.' : 'No thermal guard in the next image.'}</b>{' '}
      {off.map(({ what }) => what).join(' ')} {now && 'Never leave this machine alone.'}
    </p>
  );
}
