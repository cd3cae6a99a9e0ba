import { STATIONS } from '@jolly/session/progress';
import { useMemo, useRef } from 'react';
import { useNavigate } from 'react-router';
import { useBench } from '../../bench/BenchProvider';
import { useWorkbench } from '../../workbench/Workbench';
import { useKeys } from '../keys/useKeys';
import { useUndoKey } from '../keys/useUndoKey';
import { findables } from '../palette/findables';
import type { Undoing } from './useUndoing';

/** What is done from anywhere at a machine: by keys, by the buttons above, and from the list of all that can be found. */
export function useFrameActs({
  undoing,
  paletteOpen,
  stop,
  openPalette,
  openKeys,
  turnTape,
  openArms,
}: {
  undoing: Undoing;
  paletteOpen: boolean;
  /** Undefined while nothing runs that could be stopped. */
  stop: (() => void) | undefined;
  openPalette: () => void;
  openKeys: () => void;
  turnTape: () => void;
  openArms: () => void;
}) {
  const workbench = useWorkbench();
  const { powerOn, powerOff } = useBench();
  const navigate = useNavigate();
  const { id } = workbench.machine;
  const acts = {
    station: ({ key }: KeyboardEvent) =>
      void navigate(`/machines/${id}/${STATIONS[Number(key) - 1]?.id ?? ''}`),
    find: openPalette,
    tape: turnTape,
    arms: openArms,
    undo: () => void undoing.undo(),
    redo: () => void undoing.redo(),
    stop: () => stop?.(),
    help: openKeys,
  };
  useKeys(acts);
  useUndoKey(acts);
  const now = useRef(acts);
  now.current = acts;
  const items = useMemo(
    () =>
      paletteOpen
        ? findables({ ...workbench, ...undoing }, { ...now.current, powerOn: () => void powerOn(), powerOff })
        : [],
    [paletteOpen, workbench, undoing, powerOn, powerOff],
  );
  return { acts, items };
}
