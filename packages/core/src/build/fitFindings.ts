import { bytesInWords } from '../text/bytesInWords';
import type { Chip } from '../board/chip';
import type { Finding } from '../finding/finding';
import type { Sizes } from './sizes';

/** Within this share of a budget an image counts as at the brim. */
export const BRIM = 0.02;

/** Findings about how a built image fits its chip: `fit.flash-over`, `fit.ram-over`, `fit.brim`. */
export function fitFindings(sizes: Pick<Sizes, 'flashBytes' | 'ramBytes'>, chip: Chip): Finding[] {
  const budgets = [
    { over: 'fit.flash-over', name: 'Flash', used: sizes.flashBytes, has: chip.flash_bytes },
    { over: 'fit.ram-over', name: 'RAM', used: sizes.ramBytes, has: chip.ram_bytes },
  ];
  return budgets.flatMap(({ over, name, used, has }): Finding[] => {
    const evidence = [
      `${used.toLocaleString('en')} of ${bytesInWords(has)} (${((100 * used) / has).toFixed(1)} %)`,
    ];
    const subject = { kind: 'machine' as const, id: chip.id };
    if (used > has) {
      return [
        {
          id: over,
          severity: 'stop',
          subject,
          what: `${name} is ${bytesInWords(used - has)} too small for this image.`,
          why: 'The board cannot hold it. What each feature takes is measured at Build, and so is what to leave out.',
          evidence,
          remedies: [],
        },
      ];
    }
    if (used <= has * (1 - BRIM)) return [];
    return [
      {
        id: 'fit.brim',
        severity: 'mend',
        subject,
        what: `${name} is full to the brim.`,
        why: 'Images at the brim show blank displays, random resets and damaged bootloaders. Leave the last 2 % free.',
        evidence,
        remedies: [],
      },
    ];
  });
}
