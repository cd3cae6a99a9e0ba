import type { Board } from '../board/board';
import type { Landing } from '../machine/landing';
import { lastFew } from '../tree/lastFew';
import { oncePer } from '../tree/oncePer';
import { findHarness } from './findHarness';
import { cheapestFree } from './rankLandings';
import type { WiringCase } from './wiringCase';

const KEPT = 24;

let identities = 0;
/** Boards, chips and part types by what they are, not by name: one that was edited is another. */
const identityOf = oncePer((_object: object) => (identities += 1));

/** The same as `solve`; of the last few cases on a board the answer is kept, as a job asks for them at every step. */
function keepingLast<Asked, Answer>(solve: (wiring: WiringCase, asked: Asked) => Answer) {
  const byBoard = oncePer((_board: Board) => lastFew<Answer>(KEPT));
  return (wiring: WiringCase, asked: Asked): Answer => {
    const { board, chip, before, parts, ...rest } = wiring;
    const key = JSON.stringify([
      identityOf(chip),
      before && [identityOf(before.board), before.harness],
      parts.map(({ id, role, type }) => [id, role, identityOf(type)]),
      rest,
      asked,
    ]);
    return byBoard(board)(key, () => solve(wiring, asked));
  };
}

/** As findHarness. */
export const foundBefore = keepingLast((wiring, told: Readonly<Record<string, Landing>>) =>
  findHarness(wiring, told),
);

/** As cheapestFree. */
export const cheapestBefore = keepingLast(
  (wiring, { harness, part }: { harness: Readonly<Record<string, Landing>>; part: string }) =>
    cheapestFree(wiring, harness, part),
);
