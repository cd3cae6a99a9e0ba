import type { Description } from '@jolly/core/describe/description';
import type { AnswerValue } from '@jolly/core/describe/question';
import { api } from '../../api/api';
import type { Saved } from '@jolly/session/longWork';
import { useKept } from '../../app/useKept';

export interface Describing {
  description: Description;
  /** Gives answers, null for "not known yet"; they are kept at once. */
  answer: (given: Record<string, AnswerValue | null>) => Promise<string | undefined>;
  saved: Saved;
  settled: () => Promise<void>;
}

/** A description that is being worked at; undefined while it is not read, or why it cannot be. */
export function useDescription(id: string): Describing | { failed: Error } | undefined {
  const kept = useKept({
    key: ['description', id],
    read: () => api.description({ id }),
    save: ({ version, description }) => api.saveDescription({ id }, { version, description }),
    listed: ['descriptions'],
  });
  if (!kept || 'failed' in kept) return kept;
  return {
    description: kept.stored.description,
    saved: kept.saved,
    settled: kept.settled,
    answer: (given) =>
      kept.change(({ description, ...rest }) => ({
        ...rest,
        description: { ...description, answers: { ...description.answers, ...given } },
      })),
  };
}
