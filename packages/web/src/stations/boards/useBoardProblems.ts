import type { BegunBoard } from '@jolly/core/board/begunBoard';
import { problemWords } from '@jolly/core/board/boardForm';
import { boardBy, type Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Misfit } from '@jolly/core/formats/readYaml';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { boardWork } from './boardWork';

/** What is still missing or wrong in a board, in words; undefined until it was looked at. */
export function useBoardProblems(
  { board, keepsId, like }: BegunBoard,
  { chips, boards }: Catalogue,
): readonly Misfit[] | undefined {
  const read = useQuery<Misfit[]>({
    queryKey: ['board-problems', board, chips.length],
    queryFn: async () => boardWork().problems(board, chips),
    meta: { what: 'what is wrong in this board' },
    placeholderData: (old) => old,
    staleTime: Infinity,
  });
  return useMemo(() => {
    if (!read.data) return undefined;
    const problems = read.data.flatMap((problem) => {
      const message = problemWords(board, problem);
      return message === undefined ? [] : [{ ...problem, message }];
    });
    const { id, revision } = board;
    const isOwn = keepsId && like === undefined;
    if (!isOwn && id !== undefined && revision !== undefined && boardBy({ boards }, { id, revision }))
      problems.unshift({ path: 'name', message: `${board.name} revision ${revision} is there already; give yours another name or revision` }); // prettier-ignore
    return problems;
  }, [read.data, board, boards, keepsId, like]);
}
