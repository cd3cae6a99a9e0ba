import { cardRouteOf } from '../board/route';
import { type CardReason, judgeCard } from '../flash/judgeCard';
import type { Facts } from '../machine/facts';
import type { Spoken } from '../finding/finding';
import { type Check, needing } from './check';

/** The check that a bootloader's reason for leaving a card alone belongs to. */
export const CARD_CHECKS: Partial<Record<string, string>> = {
  'card format': 'card.format',
  'card size': 'card.format',
  'no file': 'card.name-form',
  'name form': 'card.name-form',
  'name used': 'card.name-used',
} satisfies Partial<Record<CardReason, string>>;

const WHY: Record<Exclude<CardReason, 'several files'>, string> = {
  'card format': 'The board does not see the file. Take a small card, and format it as FAT32.',
  'card size': 'The board does not see the file. Take a small card, and format it as FAT32.',
  'no file': 'The bootloader looks for that ending, and finds nothing to read.',
  'name form': 'The bootloader looks for names it can read, and finds no file.',
  'name used': 'It would start with the old image, and nothing would say so. Give the file another name.',
};

/** What the card is like as it will be written, with the one file on it. */
const run = (id: string): Pick<Check, 'needs' | 'run'> =>
  needing(['card', 'namesTaken'], ({ board }: Facts, _settings, { card, namesTaken }): Spoken[] => {
    const { fileName: name, format, sizeGb } = card;
    const contents = { format, sizeGb, files: name === undefined ? [] : [{ name }] };
    // One finding for each check and board: of several reasons the first is the one the bootloader meets.
    const route = cardRouteOf(board);
    const problem = (route ? judgeCard(contents, namesTaken, route) : []).find(
      ({ reason }) => CARD_CHECKS[reason] === id && (reason !== 'no file' || name !== undefined),
    );
    if (!problem || problem.reason === 'several files') return [];
    const { reason, because } = problem;
    return [
      {
        subject: { kind: 'machine', id: board.id },
        what: `${because.charAt(0).toUpperCase()}${because.slice(1)}.`,
        why: WHY[reason],
        evidence: [`card: ${sizeGb} GB, ${format}`, ...(name === undefined ? [] : [`file name: ${name}`])],
      },
    ];
  });

/** Whether the bootloader will take the card that is about to be written. */
export const cardChecks: Check[] = [
  { id: 'card.name-form', severity: 'stop', ...run('card.name-form') },
  { id: 'card.format', severity: 'stop', ...run('card.format') },
  { id: 'card.name-used', severity: 'mend', ...run('card.name-used') },
];
