import type { ReactNode } from 'react';
import { Refused } from '../../ui/Refused';
import css from './WorkList.module.css';

/** A list to tick off, under its title and count, with why a tick was refused. */
export function TickList({
  title,
  count,
  refused,
  children,
}: {
  title: string;
  count: string;
  refused: string | undefined;
  children: ReactNode;
}) {
  return (
    <section className={css.list} aria-label={title}>
      <h3>
        {title} <span className="figures">{count}</span>
      </h3>
      <Refused why={refused} />
      <ul>{children}</ul>
    </section>
  );
}
