import { blankBoard, bootloaderOf, flashing, flashMemory } from '@jolly/bench';
import { isCardRoute } from '@jolly/core/board/route';
import { crc32Of } from '@jolly/core/bytes/crc32';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import { chipOf } from '@jolly/core/catalogue/catalogue';
import { seconds } from './figures';

const BYTES = 256 * 1024;

/** Writing 256 kB by each route and reading it back, beside the CRC of as many bytes taken a hundred times. */
export function flashBench({ boards, chips }: Catalogue, say: (what: string, figure: string) => void): void {
  const bytes = Uint8Array.from({ length: BYTES }, (_, at) => (at * 7919) % 251);
  const baseline = seconds(() => {
    for (let time = 0; time < 100; time += 1) crc32Of(bytes);
  });
  const seen = new Set<string>();
  for (const board of boards)
    for (const route of board.routes) {
      const chip = chipOf({ chips }, board);
      if (!chip || isCardRoute(route) || route.kind === 'host' || seen.has(route.kind)) continue;
      seen.add(route.kind);
      const sold = { board, chip: { ...chip, flash_bytes: BYTES } };
      const memory = flashMemory({ ...blankBoard(chip), bootloader: bootloaderOf(board) }, sold);
      const table = { sold, loader: true, portHeld: false, toolFails: false, wiresExchanged: false };
      const job = { route, does: 'write' as const, name: 'x', bytes, at: route.load_address };
      let taken = false;
      const took = seconds(() => {
        const going = flashing(job, memory, table);
        let step = going.next();
        while (!step.done) step = going.next();
        taken = step.value.taken;
      });
      say(`Flash of 256 kB by ${route.kind} (computing below 3 s)`, taken ? `${took.toFixed(2)} s, ${(took / baseline).toFixed(1)} × its CRC a hundred times` : 'refused'); // prettier-ignore
    }
}
