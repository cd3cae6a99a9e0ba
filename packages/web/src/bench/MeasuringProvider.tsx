import { type PlantView, type Senses, sensesAt } from '@jolly/bench';
import { actOf } from '@jolly/core/bringup/handAct';
import type { Picture } from '@jolly/core/bringup/picture';
import type { Measure, Question } from '@jolly/core/bringup/procedure';
import type { CalibrationTool, Chosen, Found } from '@jolly/core/calibration/calibrationTool';
import { restsOnOf } from '@jolly/core/calibration/calibrations';
import { type Grounds, groundsOf } from '@jolly/core/machine/ground';
import type { PowerControl } from '@jolly/session/power';
import { runProcedure } from '@jolly/session/runProcedure';
import { createContext, type ReactNode, useCallback, useContext, useMemo, useRef, useState } from 'react';
import { tape } from '../app/tape/tape';
import { useWorkbench } from '../workbench/Workbench';
import { useBench } from './BenchProvider';

/** A moment between two looks, in ms; shorter while the bench runs faster than real time. */
const POLL_MS = 120;
const SHORT_MS = 20;

/** What a person is told or asked while something is measured. */
export type Asked =
  | { kind: 'told'; text: string }
  | { kind: 'question'; question: Question }
  | { kind: 'measure'; measure: Measure };

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
  atBench: { choice?: string; value?: number } | undefined;
}

const MeasuringContext = createContext<Measuring | undefined>(undefined);

/** One measurement at a time, carried out over the link; it goes on while other stations are looked at. */
export function MeasuringProvider({ children }: { children: ReactNode }) {
  const bench = useBench();
  const { facts } = useWorkbench();
  const { write } = tape;
  const [running, setRunning] = useState<string>();
  const [asked, setAsked] = useState<Asked>();
  const [picture, setPicture] = useState<Picture>();
  const [found, setFound] = useState<Measuring['found']>();
  const [senses] = useState(sensesAt);
  const [atBench, setAtBench] = useState<Measuring['atBench']>();
  const gone = useRef(false);
  const answering = useRef<(answer: string | number | undefined) => void>(undefined);
  const drawn = useRef<Picture>(undefined);

  const wait = useCallback(
    async (what: Exclude<Asked, { kind: 'told' }>) => {
      // What is seen is seen once the machine has come to rest and told of it.
      const rest = new Promise((over) => setTimeout(over, POLL_MS));
      const answered = new Promise<string | number | undefined>((resolve) => {
        if (gone.current) return resolve(undefined);
        answering.current = resolve;
        setAsked(what);
      });
      const asking = answering.current;
      const looked = rest.then(() => {
        const seen = sensed(senses, what, bench.powered.now().look?.view, drawn.current);
        if (asking && answering.current === asking) setAtBench(seen);
      });
      const answer = await answered;
      // Who answers at once has looked all the same: a mark that is made is remembered.
      if (answer !== undefined) await looked;
      return answer;
    },
    [senses, bench],
  );

  const begin = useCallback(
    async (tool: CalibrationTool, chosen: Chosen) => {
      gone.current = false;
      drawn.current = undefined;
      const grounds = groundsOf(facts, restsOnOf(facts, tool.id));
      setPicture(undefined);
      setFound(undefined);
      setRunning(tool.id);
      setAsked({ kind: 'told', text: 'It begins.' });
      bench.setStepping(true);
      const show = (shown: Picture) => {
        drawn.current = shown;
        setPicture(shown);
      };
      const outcome = await runProcedure(tool.run(chosen), {
        ask: (line, heard) => bench.ask(line, false, heard),
        tell: (text) => setAsked({ kind: 'told', text }),
        show,
        async choose(question) {
          const answer = await wait({ kind: 'question', question });
          if (answer === question.choices[0]?.id) turnScrews(question, bench);
          if (question.hand && answer !== undefined) bench.hand(actOf(question.hand.work, question.hand.on));
          return answer === undefined ? undefined : String(answer);
        },
        async measure(measure) {
          const answer = await wait({ kind: 'measure', measure });
          return answer === undefined ? undefined : Number(answer);
        },
        moment: () =>
          new Promise((resolve) => setTimeout(resolve, bench.powered.now().pace > 1 ? SHORT_MS : POLL_MS)),
        givenUp: () => gone.current,
      });
      bench.setStepping(false);
      setRunning(undefined);
      setAsked(undefined);
      setAtBench(undefined);
      setFound({ tool: tool.id, found: outcome, grounds });
      setPicture(outcome.picture);
      write('done', `${tool.title}: ${outcome.words}`);
    },
    [bench, facts, wait, write],
  );

  const give = useCallback((answer: string | number | undefined) => {
    const resolve = answering.current;
    answering.current = undefined;
    setAtBench(undefined);
    setAsked({ kind: 'told', text: 'Going on.' });
    resolve?.(answer);
  }, []);
  const giveUp = useCallback(() => {
    gone.current = true;
    // Between two questions the board is at work: only a stop ends that at once.
    if (answering.current) give(undefined);
    else bench.stop();
  }, [bench, give]);

  const measuring = useMemo(
    (): Measuring => ({
      running,
      asked,
      picture,
      found,
      atBench,
      begin,
      answer: give,
      read: give,
      giveUp,
      settle: () => setFound(undefined),
    }),
    [running, asked, picture, found, atBench, begin, give, giveUp],
  );
  return <MeasuringContext value={measuring}>{children}</MeasuringContext>;
}

/** What hand and eye say at the bench, where there is something to see. */
function sensed(
  senses: Senses,
  what: Exclude<Asked, { kind: 'told' }>,
  view: PlantView | undefined,
  drawn: Picture | undefined,
): Measuring['atBench'] {
  if (!view) return undefined;
  const choice = what.kind === 'question' ? senses.see(what.question, view, drawn) : undefined;
  const value = what.kind === 'measure' ? senses.read(what.measure, view) : undefined;
  return { ...(choice !== undefined && { choice }), ...(value !== undefined && { value }) };
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
