import { roomOf, type Cost } from '@jolly/core/fit/chooseFit';
import { Link } from 'react-router';
import { useJob } from '../../job/JobProvider';
import { useWorkbench } from '../../workbench/Workbench';

/** The other way out: the boards that hold everything, the one with the least flash first. */
export function OtherBoards({ whole }: { whole: Cost }) {
  const { facts, machine, kit } = useWorkbench();
  const { stored } = useJob();
  const { boards, chips } = facts.catalogue;
  const hold = boards
    .flatMap((board) => {
      const chip = chips.find(({ id }) => id === board.chip);
      const target = kit.targets.some(
        (entry) => entry.board === board.id && entry.revision === board.revision,
      );
      return chip && target ? [{ board, chip, room: roomOf(chip) }] : [];
    })
    .filter(({ room }) => whole.flash <= room.flash && whole.ram <= room.ram)
    .sort((a, b) => a.room.flash - b.room.flash);
  const [first] = hold;
  if (!first) return <p className="soft">No chip of a board that is known here holds everything.</p>;
  return (
    <p>
      Or leave nothing out: the smallest board whose chip holds everything is the{' '}
      <b>
        {first.board.name} rev {first.board.revision}
      </b>{' '}
      ({first.chip.flash_bytes.toLocaleString('en')} bytes of flash).{' '}
      {stored ? (
        'A job is open; a swap of boards would be one of its changes, in Survey.'
      ) : (
        <Link
          to={`/machines/${machine.id}/wiring?at=sheet&to=${encodeURIComponent(`${first.board.id} ${first.board.revision}`)}`}
        >
          What the swap would ask of your hands
        </Link>
      )}
    </p>
  );
}
