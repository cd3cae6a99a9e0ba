import { Button } from '@mantine/core';
import { type ReactNode } from 'react';
import { boardInWords } from '@jolly/core/machine/same';
import { changeWithTitle } from '@jolly/session/changeInWords';
import { useWorkbench } from '../workbench/Workbench';
import { useJob } from './JobProvider';
import { useAct } from '../ui/useAct';
import { Refused } from '../ui/Refused';
import css from './NotTakenOver.module.css';

/** Says which state of the machine a station works on, while the machine file does not hold the whole job. */
export function NotTakenOver({ children }: { children: ReactNode }) {
  const { stored, waiting, save } = useJob();
  const { facts } = useWorkbench();
  const { refused, act } = useAct();
  if (!stored || waiting.length === 0) return null;
  const take = () =>
    void act(() =>
      save(waiting.length === 1 ? 'Taken over' : `All ${waiting.length} taken over`, ({ taken }) => ({
        taken: [...new Set([...taken, ...waiting.map(({ id }) => id)])],
      })),
    );
  return (
    <section className={css.notice} aria-label="Which state of the machine">
      <div>
        <p>
          {children} The machine file has {boardInWords(facts)}, and not yet:
        </p>
        <ul>
          {waiting.map((change) => (
            <li key={change.id}>{changeWithTitle(change, facts)}</li>
          ))}
        </ul>
        <Refused why={refused} />
      </div>
      <Button size="xs" variant="default" onClick={take}>
        {waiting.length === 1 ? 'Take it over' : `Take all ${waiting.length} over`}
      </Button>
    </section>
  );
}
