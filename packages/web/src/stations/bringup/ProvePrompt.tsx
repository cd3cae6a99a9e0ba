import { Button } from '@mantine/core';
import type { HandWork } from '@jolly/core/bringup/procedure';
import { standsIn } from '@jolly/core/bringup/handAct';
import { useEffect, useRef } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { actOf } from '@jolly/core/bringup/handAct';
import css from './ProvePrompt.module.css';
import type { Prompt } from './useProving';

/** What a person is told or asked while a proof goes on, with the bench's hand for it, and the way out. */
export function ProvePrompt({
  prompt,
  answer,
  giveUp,
}: {
  prompt: Prompt;
  answer: (chosen: string) => void;
  giveUp: () => void;
}) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: 'nearest' });
  }, [prompt.text]);
  return (
    <section className={css.prompt} aria-label="The test under way" ref={box}>
      <strong role="status">{prompt.text}</strong>
      <div className={css.answers}>
        {prompt.work && <BenchHand work={prompt.work} />}
        {prompt.question?.choices.map(({ id, label }) => (
          <Button key={id} size="sm" onClick={() => answer(id)}>
            {label}
          </Button>
        ))}
        {!prompt.over && (
          <Button size="sm" variant="default" onClick={giveUp}>
            Give up on this step
          </Button>
        )}
      </div>
    </section>
  );
}

/** The hand of the bench that does what is asked, and takes it back. */
function BenchHand({ work }: { work: HandWork }) {
  const { hand } = useBench();
  const hands = usePowered((now) => now.hands);
  const on = standsIn(hands, actOf(work, true));
  return (
    <Button
      size="sm"
      data-hand-asked
      aria-pressed={on}
      variant={on ? 'light' : 'filled'}
      onClick={() => hand(actOf(work, !on))}
    >
      {on ? 'Let go' : work.label}
    </Button>
  );
}
