import { type PlantView, type Senses, sensesAt } from '@jolly/bench';
import type { Picture } from '@jolly/core/bringup/picture';
import type { Measure, Question } from '@jolly/core/bringup/procedure';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useBench } from './BenchProvider';
import { POLL_MS } from './moment';

type Answer = string | number | undefined;
type ToAnswer = { kind: 'question'; question: Question } | { kind: 'measure'; measure: Measure };

/** What a person is told or asked while something is measured. */
export type Asked = { kind: 'told'; text: string } | ToAnswer;

/** What somebody at the bench sees or reads off just now. */
export interface AtBench {
  choice?: string;
  value?: number;
}

/** Tells and asks the person at the machine, one thing at a time; on the bench it is known what they would see. */
export function useAsking() {
  const bench = useBench();
  const [asked, setAsked] = useState<Asked>();
  const [senses] = useState(sensesAt);
  const [atBench, setAtBench] = useState<AtBench>();
  const answering = useRef<(answer: Answer) => void>(undefined);

  /** @param text nothing: it is over */
  const tell = useCallback((text: string | undefined) => {
    setAtBench(undefined);
    setAsked(text === undefined ? undefined : { kind: 'told', text });
  }, []);

  /** Resolves with the answer; undefined: it was given up. */
  const wait = useCallback(
    async (what: ToAnswer, drawn: Picture | undefined): Promise<Answer> => {
      // What is seen is seen once the machine has come to rest and told of it.
      const rest = new Promise((over) => setTimeout(over, POLL_MS));
      const answered = new Promise<Answer>((resolve) => {
        answering.current = resolve;
        setAsked(what);
      });
      const asking = answering.current;
      const looked = rest.then(() => {
        const seen = sensed(senses, what, bench.powered.now().look?.view, drawn);
        if (answering.current === asking) setAtBench(seen);
      });
      const answer = await answered;
      // Who answers at once has looked all the same: a mark that is made is remembered.
      if (answer !== undefined) await looked;
      return answer;
    },
    [senses, bench],
  );

  /** @returns whether anything was asked */
  const give = useCallback(
    (answer: Answer): boolean => {
      const resolve = answering.current;
      if (!resolve) return false;
      answering.current = undefined;
      tell('Going on.');
      resolve(answer);
      return true;
    },
    [tell],
  );
  return useMemo(() => ({ asked, atBench, tell, wait, give }), [asked, atBench, tell, wait, give]);
}

/** What hand and eye say at the bench, where there is something to see. */
function sensed(
  senses: Senses,
  what: ToAnswer,
  view: PlantView | undefined,
  drawn: Picture | undefined,
): AtBench | undefined {
  if (!view) return undefined;
  const choice = what.kind === 'question' ? senses.see(what.question, view, drawn) : undefined;
  const value = what.kind === 'measure' ? senses.read(what.measure, view) : undefined;
  return { ...(choice !== undefined && { choice }), ...(value !== undefined && { value }) };
}
