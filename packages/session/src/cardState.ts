import type { BoardOnBench } from '@jolly/contract/endpoints/board';
import { cardRouteOf } from '@jolly/core/board/route';
import { cardName } from '@jolly/core/flash/cardName';
import { type CardReason, imagesOn, judgeCard } from '@jolly/core/flash/judgeCard';
import type { Known, KnownMachine } from './known';
import { newestDone } from './newestBuild';

/** Reasons that lie in the card itself; the others lie in the file on it. */
export const OF_THE_CARD: ReadonlySet<CardReason> = new Set(['card format', 'card size']);

/** How far the newest build has come on its way to the board by card. */
export function cardState({ workbench, builds, board }: Pick<Known, 'workbench' | 'builds' | 'board'>): {
  /** The flash holds it. */
  taken: boolean;
  /** It is on the card in the slot; a card with an older image is not written for this build. */
  onCard: boolean;
  /** Why the bootloader will leave the card in the slot alone. */
  against: CardReason[];
} {
  const done = newestDone(builds, workbench.board);
  const card = board?.card;
  const route = cardRouteOf(workbench.board);
  const [file] = card && route ? imagesOn(card.files, route) : [];
  return {
    taken: done !== undefined && board?.imageHash === done.imageHash,
    onCard: file !== undefined && file.imageHash === done?.imageHash,
    against: card && route ? judgeCard(card, board?.namesTaken ?? [], route).map(({ reason }) => reason) : [],
  };
}

/** A file name the board will take today. */
export function suggestedName(
  { board, machine }: Pick<KnownMachine, 'board' | 'machine'>,
  state: BoardOnBench | undefined,
  today: string,
): string {
  const rule = cardRouteOf(board)?.rule;
  if (!rule) return '';
  return cardName({
    machine: machine.name,
    date: today,
    used: [...(state?.namesTaken ?? []), ...(state?.namesWritten ?? [])],
    rule,
  }).name;
}
