import type { HomingLeg } from '@jolly/bench';
import type { Machine } from '@jolly/core/machine/machine';
import type { Point } from '@jolly/core/probe/mapGrid';
import { whyOf } from '@jolly/core/text/whyOf';
import { useReducedMotion } from '@mantine/hooks';
import { wrap } from 'comlink';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { DryRunWorker } from '../../bench/dryRunWorker';
import { trialImage } from '../../api/api';
import { useWorkbench } from '../../workbench/Workbench';

/** A run of homing on the bench with the image of these settings, shown as it went. */
export interface ShownRun {
  legs: HomingLeg[];
  /** The leg that is shown now; past the last one when it is over. */
  at: number;
  trail: Point[];
  nozzle: Point | undefined;
  z: number | undefined;
  /** What is under way: the image is built, then it runs. */
  doing: 'nothing' | 'building' | 'running';
  /** Why it could not be tried. */
  notTried: string | undefined;
  start: () => void;
  stop: () => void;
}

const LEG_MS = 1800;

/** Has the image built, runs homing with it in a worker and plays it back; with reduced motion only its end is shown. */
export function useDryRun(machine: Machine): ShownRun {
  const { facts } = useWorkbench();
  const still = useReducedMotion();
  const [legs, setLegs] = useState<HomingLeg[]>([]);
  const [played, setPlayed] = useState(0);
  const [doing, setDoing] = useState<ShownRun['doing']>('nothing');
  const [notTried, setNotTried] = useState<string>();
  const frame = useRef(0);
  const thread = useRef<Worker | undefined>(undefined);
  // Counted up with every start and stop: what comes from before is not shown.
  const turn = useRef(0);

  const stop = useCallback(() => {
    turn.current += 1;
    cancelAnimationFrame(frame.current);
    thread.current?.terminate();
    thread.current = undefined;
    setDoing('nothing');
  }, []);
  useEffect(() => stop, [stop]);
  // What was run belongs to the settings as they were.
  useEffect(() => {
    stop();
    setLegs([]);
    setPlayed(0);
    setNotTried(undefined);
  }, [machine, stop]);

  const play = useCallback(
    (found: HomingLeg[]) => {
      setLegs(found);
      if (still) {
        setPlayed(found.length);
        return setDoing('nothing');
      }
      const from = performance.now();
      const tick = () => {
        const now = Math.min(found.length, (performance.now() - from) / LEG_MS);
        setPlayed(now);
        if (now < found.length) frame.current = requestAnimationFrame(tick);
        else setDoing('nothing');
      };
      frame.current = requestAnimationFrame(tick);
    },
    [still],
  );

  const start = useCallback(() => {
    stop();
    const mine = turn.current;
    const tried = async (): Promise<HomingLeg[]> => {
      const image = await trialImage(machine);
      if (turn.current !== mine) return [];
      setDoing('running');
      const worker = new Worker(new URL('../../bench/dryRunWorker.ts', import.meta.url), { type: 'module' });
      thread.current = worker;
      return wrap<DryRunWorker>(worker).dryHoming(machine, facts.catalogue, image);
    };
    setDoing('building');
    setNotTried(undefined);
    setLegs([]);
    setPlayed(0);
    tried().then(
      (found) => {
        if (turn.current === mine) play(found);
      },
      (error: unknown) => {
        if (turn.current !== mine) return;
        setDoing('nothing');
        setNotTried(whyOf(error));
      },
    );
  }, [machine, facts.catalogue, play, stop]);

  const gone = pathUntil(legs, played);
  const last = gone.at(-1);
  return {
    legs,
    at: Math.floor(played),
    trail: gone,
    nozzle: last && { x: last.x, y: last.y },
    z: last?.z,
    doing,
    notTried,
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
