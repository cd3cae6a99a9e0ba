import { actOf } from '@jolly/core/bringup/handAct';
import type { Picture } from '@jolly/core/bringup/picture';
import type { Question } from '@jolly/core/bringup/procedure';
import type { CalibrationTool, Chosen, Found } from '@jolly/core/calibration/calibrationTool';
import { restsOnOf } from '@jolly/core/calibration/calibrations';
import { type Grounds, groundsOf } from '@jolly/core/machine/ground';
import type { PowerControl } from '@jolly/session/power';
import { runProcedure } from '@jolly/session/runProcedure';
import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from 'react';
import { tape } from '../app/tape/tape';
import { useWorkbench } from '../workbench/Workbench';
import { useBench } from './BenchProvider';
import { moment } from './moment';
import { type Asked, type AtBench, useAsking } from './useAsking';

export interface Measuring {
  /** The tool that is under way; undefined when none is. */
  running: string | undefined;
  asked: Asked | undefined;
  picture: Picture | undefined;
  /** What the last run of a tool came to, until it is settled, with the facts it was begun with. */
  found: { tool: string; found: Found; grounds: Grounds } | undefined;
  begin(tool: CalibrationTool, chosen: Chosen): Promise<void>;
  answer(chosen: string): void;
  read(value: number): void;
  /** Ends it: at its next question, or at once by stopping the machine when there is none. */
  giveUp(): void;
  /** Puts what was found away. */
  settle(): void;
  /** What somebody at the bench sees or reads off just now, to answer with; undefined where the bench does not tell. */
  atBench: AtBench | undefined;
}

const MeasuringContext = createContext<Measuring | undefined>(undefined);

/** One measurement at a time, carried out over the link; it goes on while other stations are looked at. */
export function MeasuringProvider({ children }: { children: ReactNode }) {
  const bench = useBench();
  const { facts } = useWorkbench();
  const { write } = tape;
  const [running, setRunning] = useState<string>();
  const [picture, setPicture] = useState<Picture>();
  const [found, setFound] = useState<Measuring['found']>();
  const { asked, atBench, tell, wait, give } = useAsking();
  const gone = useRef(false);

  const begin = useCallback(
    async (tool: CalibrationTool, chosen: Chosen) => {
      gone.current = false;
      let drawn: Picture | undefined;
      const grounds = groundsOf(facts, restsOnOf(facts, tool.id));
      setPicture(undefined);
      setFound(undefined);
      setRunning(tool.id);
      tell('It begins.');
      bench.setStepping(true);
      const outcome = await runProcedure(tool.run(chosen), {
        ask: (line, heard) => bench.ask(line, false, heard),
        tell,
        show(shown: Picture) {
          drawn = shown;
          setPicture(shown);
        },
        async choose(question) {
          if (gone.current) return undefined;
          const answer = await wait({ kind: 'question', question }, drawn);
          if (answer === question.choices[0]?.id) turnScrews(question, bench);
          if (question.hand && answer !== undefined) bench.hand(actOf(question.hand.work, question.hand.on));
          return answer === undefined ? undefined : String(answer);
        },
        async measure(measure) {
          const answer = gone.current ? undefined : await wait({ kind: 'measure', measure }, drawn);
          return answer === undefined ? undefined : Number(answer);
        },
        moment: () => moment(bench),
        givenUp: () => gone.current,
      });
      bench.setStepping(false);
      setRunning(undefined);
      tell(undefined);
      setFound({ tool: tool.id, found: outcome, grounds });
      setPicture(outcome.picture);
      write('done', `${tool.title}: ${outcome.words}`);
    },
    [bench, facts, tell, wait, write],
  );

  const giveUp = useCallback(() => {
    gone.current = true;
    // Between two questions the board is at work: only a stop ends that at once.
    if (!give(undefined)) bench.stop();
  }, [bench, give]);

  const measuring = useMemo(
    (): Measuring => ({
      running,
      asked,
      picture,
      found,
      atBench,
      begin,
      answer: (chosen) => void give(chosen),
      read: (value) => void give(value),
      giveUp,
      settle: () => setFound(undefined),
    }),
    [running, asked, picture, found, atBench, begin, give, giveUp],
  );
  return <MeasuringContext value={measuring}>{children}</MeasuringContext>;
}

/** The bench's hands turn each screw by so much more than it was. */
function turnScrews({ screws = [] }: Question, bench: PowerControl) {
  for (const { id, x, y, up } of screws) {
    const before = bench.powered.now().hands.find((act) => 'screw' in act && act.screw === id);
    const was = before && 'up' in before ? before.up : 0;
    bench.hand({ screw: id, x, y, up: was + up });
  }
} // prettier-ignore

export function useMeasuring(): Measuring {
  const measuring = useContext(MeasuringContext);
  if (!measuring) throw new Error('useMeasuring needs a MeasuringProvider around it');
  return measuring;
}
