import type { UseQueryResult } from '@tanstack/react-query';

/** Something that is looked up: not known yet, failed, and known are three states. */
export interface Lookup {
  /** As in "… is not known yet". */
  what: string;
  state: 'pending' | 'failed' | 'known';
  because?: string;
  again: () => void;
}

/** What was known once stays known while it is asked for again. */
export function lookupOf(what: string, query: UseQueryResult): Lookup {
  const again = () => void query.refetch();
  if (query.data !== undefined) return { what, state: 'known', again };
  return query.error
    ? { what, state: 'failed', because: query.error.message, again }
    : { what, state: 'pending', again };
}
