import { useMemo } from 'react';
import { useBench, usePowered } from '../../bench/BenchProvider';
import { useWorkbench } from '../../workbench/Workbench';
import css from './BenchHands.module.css';
import { actOf, standsIn } from '@jolly/core/bringup/handAct';
import { handGroups } from './handWork';

/** Your hands at the machine on the bench. What they do stays until you take it back, over power-offs too. */
export function BenchHands() {
  const { hand } = useBench();
  const hands = usePowered((now) => now.hands);
  const { facts } = useWorkbench();
  const groups = useMemo(() => handGroups(facts), [facts]);
  return (
    <section className={css.hands} data-hands aria-label="Your hands on the bench">
      <h2>Your hands on the bench</h2>
      {groups.map(({ title, works }) => (
        <div key={title} role="group" aria-label={title} className={css.group}>
          <span>{title}</span>
          {works.map((work) => {
            const on = standsIn(hands, actOf(work, true));
            return (
              <button
                key={work.part}
                type="button"
                aria-pressed={on}
                aria-label={`${title}: ${work.label}`}
                onClick={() => hand(actOf(work, !on))}
              >
                {work.label}
              </button>
            );
          })}
        </div>
      ))}
    </section>
  );
}
