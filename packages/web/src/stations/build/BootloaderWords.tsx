import { withoutBootloader } from '@jolly/core/board/withoutBootloader';
import { by } from '@jolly/core/flash/routeWords';
import { Link } from 'react-router';
import { bytesInWords } from '@jolly/core/text/bytesInWords';
import { useWorkbench } from '../../workbench/Workbench';

/** What leaving out the bootloader would give, and what it costs. */
export function BootloaderWords() {
  const { machine, board, chip } = useWorkbench();
  const bytes = board.routes[0].load_address;
  const without = withoutBootloader({ board, chip });
  if (bytes === 0 || !without) return null;
  return (
    <p className="soft">
      The bootloader of this board takes {bytesInWords(bytes)} below the image. Without it they are free, and
      from then on an image comes {without.board.routes.map(by).join(' or ')} only, every time: by no card and
      by no lead.{' '}
      <Link to={`/machines/${machine.id}/flash?route=bootloader`}>With or without a bootloader</Link>
    </p>
  );
}
