import type { ReactNode } from 'react';
import css from './SectionList.module.css';

export interface SectionEntry<Id extends string> {
  id: Id;
  title: ReactNode;
  /** What is to be known of it without opening it. */
  mark?: ReactNode;
  tone?: 'good' | 'bad' | undefined;
}

/** Sections of a screen, one of them open: in a column beside it, or lying in a row above it. */
export function SectionList<Id extends string>({
  label,
  entries,
  at,
  onAt,
  lying = false,
}: {
  label: string;
  entries: readonly SectionEntry<Id>[];
  at: Id | undefined;
  onAt: (id: Id) => void;
  lying?: boolean;
}) {
  return (
    <nav className={css.list} aria-label={label} data-lying={lying}>
      {entries.map(({ id, title, mark, tone }) => (
        <button key={id} aria-current={id === at ? 'true' : undefined} onClick={() => onAt(id)}>
          {title}
          {mark != null && <b data-tone={tone}>{mark}</b>}
        </button>
      ))}
    </nav>
  );
}
