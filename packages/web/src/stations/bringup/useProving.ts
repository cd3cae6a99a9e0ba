import type { HandWork, Question } from '@jolly/core/bringup/procedure';
import type { Judged, Proof } from '@jolly/core/proofs/proof';
import { runProcedure } from '@jolly/session/runProcedure';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { tape } from '../../app/tape/tape';
import { useBench } from '../../bench/BenchProvider';
import { moment } from '../../bench/moment';
import { useWorkbench } from '../../workbench/Workbench';
import { actOf } from '@jolly/core/bringup/handAct';
import { askAnew, askAnewOf, heldOf } from '../../api/held';

/** What a person is told or asked while a proof goes on. */
export interface Prompt {
  text: string;
  work?: HandWork;
  question?: Question;
  /** Nothing is asked any more. */
  over?: true;
}

/** Runs one proof at a time, with what a person is asked to do meanwhile, and writes its outcome down. */
export function useProving() {
  const { machine } = useWorkbench();
  const { board } = useStation();
  const bench = useBench();
  const client = useQueryClient();
  const { write } = tape;
  const [running, setRunning] = useState<string>();
  const [prompt, setPrompt] = useState<Prompt>();
  const givenUp = useRef(false);
  const answering = useRef<(chosen: string | undefined) => void>(undefined);
  const [unwritten, setUnwritten] = useState<string>();
  const choose = (question: Question) =>
    new Promise<string | undefined>((answered) => {
      answering.current = answered;
      setPrompt({ text: question.text, question });
    });
  const answer = (chosen: string | undefined) => {
    const question = prompt?.question;
    if (question && chosen !== undefined)
      write('done', `${question.text} ${question.choices.find(({ id }) => id === chosen)?.label ?? ''}`);
    if (question?.hand && chosen !== undefined) bench.hand(actOf(question.hand.work, question.hand.on));
    answering.current?.(chosen);
    answering.current = undefined;
    setPrompt({ text: 'Going on.' });
  };
  const run = async (step: Proof) => {
    setRunning(step.id);
    bench.setStepping(true);
    givenUp.current = false;
    const result = await runProcedure(step.run(board?.image), {
      ask: (line, heard) => bench.ask(line, false, heard),
      tell: (text, work) => setPrompt({ text, ...(work && { work }) }),
      choose: (question) => (givenUp.current ? Promise.resolve(undefined) : choose(question)),
      moment: () => moment(bench),
      givenUp: () => givenUp.current,
    });
    bench.setStepping(false);
    setPrompt({ text: 'The run behind it is run again before it is written down.', over: true });
    const unwrittenWhy = await writeDown(step, result);
    setRunning(undefined);
    setPrompt(undefined);
    setUnwritten(unwrittenWhy);
  };
  const writeDown = async (step: Proof, result: Judged): Promise<string | undefined> => {
    try {
      const { outcome, evidence, finding } = result;
      const recording = await bench.recording();
      if (!recording)
        throw new Error('the power went meanwhile, or a card to print from was in the slot since it came on');
      const told = { step: step.id, outcome, evidence, ...(finding !== undefined && { finding }), recording };
      client.setQueryData(heldOf(machine.id, 'proofs'), await api.prove({ id: machine.id }, told));
    } catch (error) {
      const why = whyOf(error);
      write('done', `${step.title}: nobody confirmed that the outcome was written down. ${why}`);
      return `${step.title} was tested, but nobody confirmed that the outcome was written down. ${why}`;
    }
    void askAnewOf(client, machine.id, 'entries');
    void askAnew(client, 'machines');
    write('done', `${step.title}: ${result.outcome === 'proven' ? 'proven' : 'not so'}`);
    return undefined;
  };
  const giveUp = () => {
    givenUp.current = true;
    answer(undefined);
  };
  return { run, running, prompt, answer, giveUp, unwritten };
}
