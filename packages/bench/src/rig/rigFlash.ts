import { type CardRule, fixedName } from '@jolly/core/board/cardRule';
import { cardRouteOf } from '@jolly/core/board/route';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import { asSold, type Facts } from '@jolly/core/machine/facts';
import { certain } from '@jolly/core/tree/certain';
import { boardHolding, powerOnWithCard } from '../board/board';
import type { BoardState } from '../board/boardState';
import { around } from '../faults/around';
import type { Surroundings } from '../faults/fault';

const FILE_NAME = 'NEW';
const ANY_CARD: CardRule = { kind: 'any', extension: 'BIN', ignoresRepeat: false, renames: false };
const USUAL_CARD_GB = 8;

/** The board before its image is on it, with the card that carries it, as the faults that are laid leave both. */
export function aroundFlash(
  facts: Facts,
  image: Uint8Array,
  state: BoardState,
  laid: readonly string[],
): Surroundings {
  const route = cardRouteOf(facts.board);
  const { rule, max_card_gb: most } = route ?? { rule: ANY_CARD, max_card_gb: USUAL_CARD_GB };
  const name = rule.kind === 'fixed' ? fixedName(rule) : `${FILE_NAME}.${rule.extension}`;
  const sizeGb = Math.min(USUAL_CARD_GB, most);
  const card = { format: 'FAT32' as const, sizeGb, files: [{ name, bytes: image }] };
  return around(facts, laid, { state, card });
}

/** The board after its first route was gone, what became of the image, and that in words. */
export interface Flashed {
  state: BoardState;
  outcome: CardOutcome;
  told: string;
}

export function flashedBy(facts: Facts, at: Surroundings): Flashed {
  const { board, chip } = asSold(facts);
  const byCard = cardRouteOf(facts.board) !== undefined;
  const { state, outcome } = byCard ? powerOnWithCard(at.state, at.card, board, chip) : byWires(facts, at);
  return { state, outcome, told: wordsOf(outcome, at.toolFails) };
}

function wordsOf(outcome: CardOutcome, toolFails: boolean): string {
  if (!outcome.taken) return `the image was not taken: ${outcome.because}`;
  return toolFails ? 'the tool reports that writing failed' : `the image was taken as ${outcome.name}`;
}

/** Where no card is taken, wires write what lies ready, wherever its header wants to be. */
function byWires(facts: Facts, at: Surroundings): { state: BoardState; outcome: CardOutcome } {
  const { name, bytes } = certain(at.card.files[0], 'the image');
  const { image, bootloader, fromStart } = boardHolding(bytes, asSold(facts));
  const { fromStart: _, bootloader: __, ...rest } = at.state;
  const state = { ...rest, image, ...(fromStart ? { fromStart } : bootloader && { bootloader }) };
  return { state, outcome: { taken: true, name } };
}
