import { BRIM } from '@jolly/core/build/fitFindings';
import type { Cost } from '@jolly/core/fit/chooseFit';
import type { HoldingBoard } from '@jolly/core/ripple/holdingBoards';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { useJob } from '../../job/JobProvider';
import { Refused } from '../../ui/Refused';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { useWorkbench } from '../../workbench/Workbench';
import css from './FitView.module.css';

/** The other way out: the boards that hold everything, the one that asks the least first. */
export function OtherBoards({ whole }: { whole: Cost }) {
  const { machine, version, core, kit } = useWorkbench();
  const { stored } = useJob();
  const boards = useQuery({
    queryKey: ['holding-boards', machine.id, version, whole.flash, whole.ram],
    queryFn: async () => core.holdingBoards(machine, whole),
    staleTime: Infinity,
  });
  if (boards.error) return <Refused why={`Other boards could not be looked at: ${boards.error.message}`} />;
  if (!boards.data)
    return <p className="soft">Whether another board holds everything is being worked out.</p>;
  if (boards.data.length === 0)
    return (
      <p className="soft">
        No other board that {kit.name} {kit.version} has a target for holds everything with headroom.
      </p>
    );
  return (
    <section aria-labelledby="other-boards">
      <h4 id="other-boards" className={css.others}>
        Or leave nothing out: boards that hold everything
      </h4>
      <ul className={css.boards}>
        {boards.data.map((one) => (
          <Holding key={`${one.board.id} ${one.board.revision}`} {...one} linked={!stored} />
        ))}
      </ul>
      <p className="soft">
        Room is told beyond the {BRIM * 100} % that stay free. What a board costs in a shop is not known here.
        {stored && ' A job is open; a swap of boards would be one of its changes, in Survey.'}
      </p>
    </section>
  );
}

function Holding({ board, left, leads, unplaced, linked }: HoldingBoard & { linked: boolean }) {
  const { machine } = useWorkbench();
  const name = `${board.name} rev ${board.revision}`;
  return (
    <li className={css.board} data-short={unplaced.length > 0}>
      <b className={css.title}>{name}</b>
      <span>
        {bytesInWords(left.flash)} of flash and {bytesInWords(left.ram)} of RAM to spare
      </span>
      <span>
        {leads} {leads === 1 ? 'lead' : 'leads'} to change
      </span>
      <span>
        {unplaced.length > 0
          ? `Cannot be connected there: ${unplaced.join(', ')}`
          : 'Every part finds a place'}
      </span>
      {linked && (
        <Link
          aria-label={`What the swap to ${name} would ask of your hands`}
          to={`/machines/${machine.id}/wiring?at=sheet&to=${encodeURIComponent(`${board.id} ${board.revision}`)}`}
        >
          What the swap would ask of your hands
        </Link>
      )}
    </li>
  );
}
