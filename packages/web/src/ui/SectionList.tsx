import type { ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import css from './SectionList.module.css';

export interface SectionEntry<Id extends string> {
  id: Id;
  title: ReactNode;
  /** What is to be known of it without opening it. */
  mark?: ReactNode;
  tone?: 'good' | 'bad' | undefined;
}

/** What stands behind the question mark of an address, by name; what is undefined is left out. */
export type Search = Readonly<Record<string, string | undefined>>;

/** An address that stands in this page with another search, for a link. */
export const searchOf = (search: Search): { search: string } => ({
  search: new URLSearchParams(
    Object.entries(search).flatMap(([name, value]) => (value === undefined ? [] : [[name, value]])),
  ).toString(),
});

/**
 * Sections of a screen, one of them open: in a column beside it, or lying in a row above it. Each has an address, so that
 * it opens in a tab of its own, and Back goes back to the one before.
 */
export function SectionList<Id extends string>({
  label,
  entries,
  at,
  leads,
  lying = false,
}: {
  label: string;
  entries: readonly SectionEntry<Id>[];
  at: Id | undefined;
  /** The search of a section's address, made from the one shown now. */
  leads: (id: Id, now: Search) => Search;
  lying?: boolean;
}) {
  const [search] = useSearchParams();
  const now = Object.fromEntries(search);
  return (
    <nav className={css.list} aria-label={label} data-lying={lying}>
      {entries.map(({ id, title, mark, tone }) => (
        <Link key={id} to={searchOf(leads(id, now))} aria-current={id === at ? 'page' : undefined}>
          {title}
          {mark != null && <b data-tone={tone}>{mark}</b>}
        </Link>
      ))}
    </nav>
  );
}
