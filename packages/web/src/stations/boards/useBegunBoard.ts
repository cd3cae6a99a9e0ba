import type { BegunBoard } from '@jolly/core/board/begunBoard';
import type { BoardDraft } from '@jolly/core/board/boardDraft';
import { freeId } from '@jolly/core/machine/freeId';
import type { Path } from '@jolly/core/tree/path';
import { put } from '@jolly/core/tree/put';
import { api } from '../../api/api';
import type { Saved } from '@jolly/session/longWork';
import { useKept } from '../../app/useKept';

export interface Drawing {
  begun: BegunBoard;
  /** Puts a value into the board; undefined takes it out. */
  set: (path: Path, value: unknown) => void;
  change: (to: (now: BegunBoard) => BegunBoard) => void;
  saved: Saved;
  settled: () => Promise<void>;
  readAnew: () => Promise<void>;
}

/** A board that is being described; undefined while it is not read, or why it cannot be. */
export function useBegunBoard(id: string): Drawing | { failed: Error } | undefined {
  const kept = useKept({
    key: ['begun-board', id],
    read: () => api.begunBoard({ id }),
    save: ({ version, begun }) => api.saveBegunBoard({ id }, { version, begun }),
    listed: ['begun-boards'],
  });
  if (!kept || 'failed' in kept) return kept;
  const change: Drawing['change'] = (to) =>
    void kept.change(({ begun, ...rest }) => ({ ...rest, begun: to(begun) }));
  return {
    begun: kept.stored.begun,
    saved: kept.saved,
    settled: kept.settled,
    readAnew: kept.readAnew,
    change,
    set: (path, value) =>
      change((now) => {
        // Only fields of the form's tables are put, and the server reads the file with the board's schema.
        const board = put(now.board, path, value) as BoardDraft;
        return { ...now, board: following(now, board) };
      }),
  };
}

/** What follows from the name and the revision: the id, and the target of its images. A board that is known already keeps its id. */
function following({ board: before, keepsId }: BegunBoard, board: BoardDraft): BoardDraft {
  if (board.name === before.name && board.revision === before.revision && board.routes === before.routes)
    return board;
  const fresh = !keepsId && board.name !== before.name && board.name;
  const id = fresh ? freeId(fresh, new Set(), 'board') : board.id;
  const target = freeId(`${id ?? ''} ${board.revision ?? ''}`, new Set(), 'board');
  return {
    ...board,
    ...(id !== undefined && { id }),
    routes: (board.routes ?? []).map((route) => ({ ...route, target })),
  };
}
