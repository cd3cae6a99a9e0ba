import type { Misfit } from '@jolly/core/formats/readYaml';
import { Button } from '@mantine/core';
import { useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api } from '../../api/api';
import { Refused } from '../../ui/Refused';
import { useAct } from '../../ui/useAct';
import css from './Boards.module.css';
import { sectionOf } from './sections';
import type { Drawing } from './useBegunBoard';
import { askAnew } from '../../api/held';

const SHOWN = 6;

/** What is still open before it is a board of the catalogue, and the act that makes it one. */
export function AddBoard({
  id,
  drawing,
  problems,
  onAt,
  back,
}: {
  id: string;
  drawing: Drawing;
  problems: readonly Misfit[] | undefined;
  onAt: (section: string) => void;
  /** Where it is wanted; there it is told which board it became. */
  back: string | null;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { busy, refused, act } = useAct();
  const add = () =>
    act(async () => {
      await drawing.settled();
      const board = await api.finishBoard({ id });
      await askAnew(client, 'catalogue');
      await askAnew(client, 'begun-boards');
      await askAnew(client, 'own-types');
      const added = encodeURIComponent(`${board.id} ${board.revision}`);
      void navigate(back ? `${back}${back.includes('?') ? '&' : '?'}added=${added}` : '/');
    });
  return (
    <section className={css.add} aria-label="What is open">
      <h2>
        {problems === undefined ? 'Being looked at' : problems.length === 0 ? 'It holds together' : `Still open: ${problems.length}`}
      </h2>
      <ul aria-label="What is wrong or missing">
        {problems?.slice(0, SHOWN).map((problem) => {
          const section = sectionOf(problem.path);
          return (
            <li key={`${problem.path} ${problem.message}`}>
              <button onClick={() => onAt(section?.id ?? 'board')}>{section?.title}</button>
              {`: ${problem.message}`}
            </li>
          );
        })}
        {problems && problems.length > SHOWN && <li className="soft">and {problems.length - SHOWN} more</li>}
      </ul>
      <Refused why={refused} />
      <Button disabled={busy || problems === undefined || problems.length > 0} onClick={() => void add()}>
        {drawing.begun.keepsId && drawing.begun.like === undefined ? 'Keep this board' : 'Add this board'}
      </Button>
    </section>
  ); // prettier-ignore
}
