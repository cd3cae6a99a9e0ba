import type { StoredDescription } from '@jolly/contract/endpoints/descriptions';
import type { Description } from '@jolly/core/describe/description';
import type { AnswerValue } from '@jolly/core/describe/question';
import { whyOf } from '@jolly/core/text/whyOf';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api } from '../../api/api';

export interface Describing {
  description: Description;
  /** Gives answers, null for "not known yet"; they are kept at once, one save behind the other. */
  answer: (given: Record<string, AnswerValue | null>) => Promise<string | undefined>;
  /** How the newest answer stands. */
  saved: 'saved' | 'saving' | { refused: string };
  /** Resolves when everything given is kept. */
  settled: () => Promise<void>;
}

/** A description that is being worked at; undefined while it is not read, or why it cannot be. */
export function useDescription(id: string): Describing | { failed: Error } | undefined {
  const client = useQueryClient();
  const key = ['description', id];
  const { data, error } = useQuery({ queryKey: key, queryFn: () => api.description({ id }) });
  const [saved, setSaved] = useState<Describing['saved']>('saved');
  const turn = useRef<Promise<unknown>>(Promise.resolve());
  if (!data) return error ? { failed: error } : undefined;

  const change = (to: (now: StoredDescription) => StoredDescription) =>
    client.setQueryData<StoredDescription>(key, (now) => now && to(now));
  const save = async (): Promise<string | undefined> => {
    const now = client.getQueryData<StoredDescription>(key);
    if (!now) return undefined;
    try {
      const { version, changedAt } = await api.saveDescription(
        { id },
        { version: now.version, description: now.description },
      );
      // What was answered meanwhile is there already, and is saved next.
      change((later) => ({ ...later, version, changedAt }));
      setSaved('saved');
      // The shelf tells how far it is, also when this page is left before the answer was kept.
      void client.invalidateQueries({ queryKey: ['descriptions'] });
      return undefined;
    } catch (problem) {
      setSaved({ refused: whyOf(problem) });
      await client.invalidateQueries({ queryKey: key });
      return whyOf(problem);
    }
  };
  return {
    description: data.description,
    saved,
    answer(given) {
      setSaved('saving');
      change(({ description, ...rest }) => ({
        ...rest,
        description: { ...description, answers: { ...description.answers, ...given } },
      }));
      const mine = turn.current.then(save);
      turn.current = mine;
      return mine;
    },
    settled: async () => void (await turn.current),
  };
}
