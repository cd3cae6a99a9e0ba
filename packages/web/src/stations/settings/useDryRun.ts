import type { HomingLeg } from '@jolly/bench';
import type { Machine } from '@jolly/core/machine/machine';
import type { Point } from '@jolly/core/probe/mapGrid';
import { useReducedMotion } from '@mantine/hooks';
import { wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { DryRunWorker } from '../../bench/dryRunWorker';
import { useWorkbench } from '../../workbench/Workbench';

/** A run of homing on the bench's plant, shown as it went. */
export interface ShownRun {
  legs: HomingLeg[];
  /** The leg that is shown now; past the last one when it is over. */
  at: number;
  trail: Point[];
  nozzle: Point | undefined;
  z: number | undefined;
  running: boolean;
  start: () => void;
  stop: () => void;
}

const LEG_MS = 1800;

/** Runs homing in a worker and plays it back; with reduced motion only its end is shown. */
export function useDryRun(machine: Machine): ShownRun {
  const { facts } = useWorkbench();
  const still = useReducedMotion();
  const [legs, setLegs] = useState<HomingLeg[]>([]);
  const [played, setPlayed] = useState(0);
  const [running, setRunning] = useState(false);
  const frame = useRef(0);
  const thread = useRef<Worker | undefined>(undefined);

  const stop = useCallback(() => {
    cancelAnimationFrame(frame.current);
    thread.current?.terminate();
    thread.current = undefined;
    setRunning(false);
  }, []);
  useEffect(() => stop, [stop]);
  // What was run belongs to the settings as they were.
  useEffect(() => {
    stop();
    setLegs([]);
    setPlayed(0);
  }, [machine, stop]);

  const start = useCallback(() => {
    stop();
    setRunning(true);
    const worker = new Worker(new URL('../../bench/dryRunWorker.ts', import.meta.url), { type: 'module' });
    thread.current = worker;
    void wrap<DryRunWorker>(worker)
      .dryHoming(machine, facts.catalogue)
      .then((found) => {
        worker.terminate();
        setLegs(found);
        if (still) {
          setPlayed(found.length);
          return setRunning(false);
        }
        const from = performance.now();
        const tick = () => {
          const now = Math.min(found.length, (performance.now() - from) / LEG_MS);
          setPlayed(now);
          if (now < found.length) frame.current = requestAnimationFrame(tick);
          else setRunning(false);
        };
        frame.current = requestAnimationFrame(tick);
      });
  }, [machine, facts.catalogue, still, stop]);

  const gone = pathUntil(legs, played);
  const last = gone.at(-1);
  return {
    legs,
    at: Math.floor(played),
    trail: gone,
    nozzle: last && { x: last.x, y: last.y },
    z: last?.z,
    running,
    start,
    stop,
  };
}

/** The way gone until a moment, counted in legs. */
function pathUntil(legs: HomingLeg[], played: number): { x: number; y: number; z: number }[] {
  return legs.flatMap((leg, index) => {
    if (index > played) return [];
    const share = Math.min(1, played - index);
    return leg.path.slice(0, Math.max(1, Math.ceil(share * leg.path.length)));
  });
}
