import { createContext, useContext, useEffect } from 'react';
import type { ArmsStep } from '../arms/ArmsLength';
import type { Known } from '@jolly/session/known';

/** What the frame shares with the station in it. */
export interface StationFrame extends Omit<Known, 'workbench' | 'job'> {
  /** Steps the station's procedure can show at arm's length. */
  setArmsSteps(steps: ArmsStep[]): void;
  openArms(): void;
  /** Where a station shows what belongs to the step at arm's length, and which step that is; nothing while it is closed. */
  arms: { slot: HTMLElement; at: number } | undefined;
}

export const StationContext = createContext<StationFrame | undefined>(undefined);

export function useStation(): StationFrame {
  const frame = useContext(StationContext);
  if (!frame) throw new Error('useStation needs the machine frame around it');
  return frame;
}

/** Offers a station's procedure to arm's-length mode while the station is shown. */
export function useArmsSteps(steps: ArmsStep[]): void {
  const { setArmsSteps } = useStation();
  const key = JSON.stringify(steps);
  useEffect(() => {
    // Written from steps in the line above.
    setArmsSteps(JSON.parse(key) as ArmsStep[]);
    return () => setArmsSteps([]);
  }, [key, setArmsSteps]);
}
