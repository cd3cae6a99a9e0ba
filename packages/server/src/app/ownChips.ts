import { notFound, Refusal } from '@jolly/contract/refusal';
import type { Chip } from '@jolly/core/board/chip';
import { chipOf } from '@jolly/core/catalogue/catalogue';
import { boardProblems } from '@jolly/core/formats/boardRules';
import { sameBoardType } from '@jolly/core/machine/same';
import { sameValue } from '@jolly/core/tree/sameValue';
import { type Context, transact } from '../context';
import { ownChips } from '../sql/ownTypes';
import { describedAnew } from './describedAnew';
import { readWhole } from './readWhole';

/** A chip of the catalogue. @throws {Refusal} not-found */
export function theChip({ catalogue }: Pick<Context, 'catalogue'>, id: string): Chip {
  const chip = chipOf(catalogue, { chip: id });
  if (!chip) throw notFound('chip', id);
  return chip;
}

/**
 * Adds a chip from the text of a chip file, or replaces one that was added here before.
 * @throws {Refusal} bad-file where a board that carries it would no longer hold together
 */
export async function addChip(context: Context, text: string): Promise<Chip> {
  const chip = readWhole(await context.reading.read('chipFile', text));
  const { catalogue } = context;
  const there = chipOf(catalogue, { chip: chip.id });
  const carriers = catalogue.boards.filter((one) => one.chip === chip.id);
  if (there && !context.ownChips.has(chip.id))
    throw new Refusal('id-taken', `the catalogue has a chip "${chip.id}"; give yours another id`, { path: 'id' }); // prettier-ignore
  const chips = [...catalogue.chips.filter(({ id }) => id !== chip.id), chip];
  for (const board of carriers) {
    const [misfit] = boardProblems(board, chips);
    if (misfit) throw new Refusal('bad-file', `${board.name} rev ${board.revision} carries it and would not fit it any more: ${misfit.message}`); // prettier-ignore
  }
  await transact(context, async (within) => {
    await ownChips.put(within.db, chip, within.now());
    if (there && !sameValue(there, chip))
      await describedAnew(within, chip.name, ({ board }) =>
        carriers.some((one) => sameBoardType(one, board)),
      );
  });
  context.ownChips.add(chip.id);
  catalogue.chips = chips;
  return chip;
}
