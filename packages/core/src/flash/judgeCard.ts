import type { CardRoute } from '../board/route';
import { fixedName } from '../board/cardRule';

/** A file name of 8 letters and 3, as bootloaders read it. */
const EIGHT_AND_THREE = /^[A-Za-z0-9_~-]{1,8}\.[A-Za-z0-9]{1,3}$/;

/** What lies in a slot, as far as a bootloader looks before it reads the image. */
export interface CardContents {
  format: string;
  sizeGb: number;
  files: readonly { name: string }[];
}

export type CardReason =
  'card format' | 'card size' | 'no file' | 'several files' | 'name form' | 'name used';

/** Why a bootloader leaves a card alone. */
export interface CardProblem {
  reason: CardReason;
  because: string;
}

/** The files in the root that a bootloader takes for images, by their ending. */
export const imagesOn = <T extends { name: string }>(
  files: readonly T[],
  { rule }: Pick<CardRoute, 'rule'>,
): T[] => files.filter(({ name }) => name.toUpperCase().endsWith(`.${rule.extension.toUpperCase()}`));

/**
 * Everything for which a bootloader would leave a card alone, in the order in which it looks; nothing when it goes on
 * to read the image. `namesTaken` are the names of files it has taken before, compared without case.
 */
export function judgeCard(
  card: CardContents,
  namesTaken: readonly string[],
  route: Pick<CardRoute, 'rule' | 'max_card_gb'>,
): CardProblem[] {
  return [...judgeForm(card, route), ...judgeFiles(card, namesTaken, route)];
}

function judgeForm({ format, sizeGb }: CardContents, { max_card_gb: most }: Pick<CardRoute, 'max_card_gb'>) {
  const problems: CardProblem[] = [];
  if (format !== 'FAT32')
    problems.push({
      reason: 'card format',
      because: `the bootloader reads FAT32 only; this card is ${format}`,
    });
  if (sizeGb > most)
    problems.push({
      reason: 'card size',
      because: `the bootloader reads cards up to ${most} GB; this one has ${sizeGb} GB`,
    });
  return problems;
}

function judgeFiles(
  { files }: CardContents,
  namesTaken: readonly string[],
  route: Pick<CardRoute, 'rule'>,
): CardProblem[] {
  const { rule } = route;
  const ending = `.${rule.extension.toUpperCase()}`;
  const [image, ...others] = imagesOn(files, route);
  if (!image) return [{ reason: 'no file', because: `no file ending in ${ending} in the root of the card` }];
  if (others.length > 0)
    return [
      {
        reason: 'several files',
        because: `${others.length + 1} files end in ${ending}; the bootloader wants one`,
      },
    ];
  const problems: CardProblem[] = [];
  const same = (name: string) => name.toUpperCase() === image.name.toUpperCase();
  if (rule.kind === 'fixed' && !same(fixedName(rule)))
    problems.push({
      reason: 'name form',
      because: `the bootloader takes ${fixedName(rule)} only; this file is ${image.name}`,
    });
  if (!EIGHT_AND_THREE.test(image.name))
    problems.push({
      reason: 'name form',
      because: `${image.name} is longer than 8 letters and 3; the bootloader cannot read it`,
    });
  if (rule.ignoresRepeat && namesTaken.some(same))
    problems.push({
      reason: 'name used',
      because: `the board took a file called ${image.name} before and ignores that name now`,
    });
  return problems;
}
