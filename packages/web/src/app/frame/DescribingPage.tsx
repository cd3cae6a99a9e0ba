import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { NoServer } from './NoServer';
import { NotRead } from './NotRead';
import { LampSwitch } from '../lamp/LampSwitch';
import css from './DescribingPage.module.css';

/** A page on which something is described bit by bit: its parts at the left, what is asked, and how it looks so far. */
export function DescribingPage({
  back = { to: '/', words: 'To the shelf' },
  title,
  note,
  parts,
  columns,
  asked,
  children,
  side,
}: {
  back?: { to: string; words: string };
  title: string;
  /** Whether what was said last is kept. */
  note: ReactNode;
  parts: ReactNode;
  /** Widths of the three columns, as CSS says them. */
  columns: string;
  /** What the middle is about. */
  asked: string;
  children: ReactNode;
  side: ReactNode;
}) {
  return (
    <div className={css.page} style={{ gridTemplateColumns: columns }}>
      <header className={css.head}>
        <Link to={back.to}>{back.words}</Link>
        <h1>{title}</h1>
        {note}
        <LampSwitch />
      </header>
      <div className={css.alarms}>
        <NoServer />
        <NotRead />
      </div>
      {parts}
      <main className={css.asked} aria-label={asked}>
        {children}
      </main>
      <aside className={css.side}>{side}</aside>
    </div>
  );
}
