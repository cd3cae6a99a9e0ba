import type { Chip } from '@jolly/core/board/chip';
import { Button, FileButton, Textarea } from '@mantine/core';
import type { Board } from '@jolly/core/board/board';
import type { FileProblem, Read } from '@jolly/core/formats/readYaml';
import { writeBoardFile } from '@jolly/core/formats/boardFile';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo } from 'react';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import { useDraft } from '../../ui/useDraft';
import { BoardForm } from './BoardForm';
import { boardOf, type Draft, EMPTY_HEADER } from './ownBoardDraft';
import css from './SurveyStation.module.css';

/** A board nobody has described yet: a form that makes a board file, or a file that is read. */
export function OwnBoard({
  chips,
  usual,
  read,
  onClose,
  onAdded,
}: {
  chips: readonly Chip[];
  /** The chip a new board begins with. */
  usual: Chip;
  read: (text: string) => Promise<Read<Board>>;
  onClose: () => void;
  onAdded: (board: Pick<Board, 'id' | 'name' | 'revision'>) => void;
}) {
  const { draft, set, text, setTyped, unnamed } = useBoardFile(chips, usual);
  const client = useQueryClient();
  const { act, refused } = useAct();
  const check = useQuery<Read<Board>>({
    queryKey: ['readBoard', text],
    queryFn: () => read(text),
    placeholderData: (old) => old,
  });
  const problems = check.data && 'problems' in check.data ? check.data.problems : [];
  const add = () =>
    act(async () => {
      const board = await api.addBoard({ file: text });
      await client.invalidateQueries({ queryKey: ['catalogue'] });
      onAdded(board);
      onClose();
    });
  const open = (file: File | null) =>
    void file?.text().then((content) => setTyped(content.slice(0, 500_000)));
  return (
    <>
      <h2>Describe a board, or read its file</h2>
      <div className="row">
        <FileButton onChange={open} accept=".yaml,.yml" inputProps={{ 'aria-label': 'Board file' }}>
          {(props) => (
            <Button size="xs" variant="default" {...props}>
              Open a board file
            </Button>
          )}
        </FileButton>
        <Button size="xs" variant="subtle" onClick={onClose}>
          Leave it
        </Button>
      </div>
      <div className={css.twoColumns}>
        <div>
          <BoardForm draft={draft} set={set} chips={chips} />
        </div>
        <div>
          <Textarea
            label="The board file"
            autosize
            minRows={10}
            maxRows={18}
            className={css.file}
            value={text}
            onChange={(event) => setTyped(event.currentTarget.value)}
          />
          <Readable unnamed={unnamed} problems={problems} />
          <Refused why={refused} />
          <Button disabled={problems.length > 0} onClick={() => void add()}>
            Add this board
          </Button>
        </div>
      </div>
    </>
  );
}

/** The file of a board: as the form makes it, until somebody types in it. */
function useBoardFile(chips: readonly Chip[], usual: Chip) {
  const [draft, setDraft] = useDraft<Draft>('own-board', {
    name: '', revision: '1', chip: usual.id, print: '', width: 100, depth: 80, drivers: 'plugged in', sockets: 4,
    headers: [{ ...EMPTY_HEADER, id: 'SX' }], cardName: '', extension: 'BIN',
  }); // prettier-ignore
  const [typed, setTyped] = useDraft<string | null>('own-board:file', null);
  const chip = chips.find(({ id }) => id === draft.chip) ?? usual;
  const made = useMemo(() => writeBoardFile(boardOf(draft, chip)), [draft, chip]);
  const set = (part: Partial<Draft>) => {
    setTyped(null);
    setDraft((old) => ({ ...old, ...part }));
  };
  return {
    draft,
    set,
    text: typed ?? made,
    setTyped,
    /** Nothing is wrong yet with a form nobody has begun. */
    unnamed: typed === null && draft.name.trim() === '',
  };
}

function Readable({ unnamed, problems }: { unnamed: boolean; problems: readonly FileProblem[] }) {
  if (unnamed) return <p className="soft">Give the board a name, or open its file.</p>;
  if (problems.length === 0) return <p className="proven">It can be read.</p>;
  return (
    <ul className={css.problems} aria-label="What is wrong with the file">
      {problems.slice(0, 5).map((problem) => (
        <li key={`${problem.path}${problem.message}`}>
          line {problem.line}: {problem.message}
        </li>
      ))}
    </ul>
  );
}
