import type { Proof } from '@jolly/core/bringup/proofs';
import { runProcedure } from '@jolly/session/runProcedure';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api } from '../../api/api';
import { useStation } from '../../app/frame/StationContext';
import { useTape } from '../../app/tape/tape';
import { useBench } from '../../bench/BenchProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** How long a switch is left alone between two looks at it, in milliseconds. */
const POLL_MS = 120;

/** Runs one proof at a time, with what a person is asked to do meanwhile, and writes its outcome down. */
export function useProving() {
  const { machine } = useWorkbench();
  const { board } = useStation();
  const bench = useBench();
  const client = useQueryClient();
  const { write } = useTape();
  const [running, setRunning] = useState<string>();
  const [prompt, setPrompt] = useState<string>();
  const givenUp = useRef(false);
  const [unwritten, setUnwritten] = useState<string>();
  const run = async (step: Proof) => {
    setRunning(step.id);
    givenUp.current = false;
    const result = await runProcedure(step.run(board?.image), {
      ask: bench.ask,
      tell: setPrompt,
      moment: () => new Promise((resolve) => setTimeout(resolve, POLL_MS)),
      givenUp: () => givenUp.current,
    });
    setRunning(undefined);
    setPrompt(undefined);
    try {
      const { outcome, evidence } = result;
      const recording = await bench.recording();
      if (!recording)
        throw new Error('the power went meanwhile, or a card to print from was in the slot since it came on');
      const proofs = await api.prove({ id: machine.id }, { step: step.id, outcome, evidence, recording });
      client.setQueryData(['proofs', machine.id], proofs);
    } catch (error) {
      const why = whyOf(error);
      write('done', `${step.title}: nobody confirmed that the outcome was written down. ${why}`);
      return setUnwritten(
        `${step.title} was tested, but nobody confirmed that the outcome was written down. ${why}`,
      );
    }
    setUnwritten(undefined);
    void client.invalidateQueries({ queryKey: ['entries', machine.id] });
    void client.invalidateQueries({ queryKey: ['machines'] });
    write('done', `${step.title}: ${result.outcome === 'proven' ? 'proven' : 'not so'}`);
  };
  const giveUp = () => {
    givenUp.current = true;
  };
  return { run, running, prompt, giveUp, unwritten };
}
