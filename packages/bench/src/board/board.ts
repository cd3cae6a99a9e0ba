import type { Board } from '@jolly/core/board/board';
import { type CardRoute, cardRouteOf } from '@jolly/core/board/route';
import type { Chip } from '@jolly/core/board/chip';
import type { CardOutcome, FlashReason } from '@jolly/core/flash/cardOutcome';
import type { BoardAndChip } from '@jolly/core/board/withoutBootloader';
import { imagesOn, judgeCard } from '@jolly/core/flash/judgeCard';
import { type ImageHeader, readImage } from '@jolly/core/image/imageHeader';
import { blankBoard, type BoardState } from './boardState';
import { bootloaderEnds, bootloaderOf, hasBootloader } from './bootloader';
import type { Card } from './card';

/** A board that holds an image where its header wants it, by whichever way it came there. */
export function boardHolding(image: Uint8Array, { board, chip }: BoardAndChip): BoardState {
  const read = readImage(image);
  const fromStart = 'header' in read && read.header.loadAddress === 0 && bootloaderEnds(board) > 0;
  const stands = fromStart ? { fromStart: true as const } : { bootloader: bootloaderOf(board) };
  return { ...blankBoard(chip), image, ...stands };
}

const refuse = (reason: FlashReason, because: string): CardOutcome => ({ taken: false, reason, because });

/**
 * What the bootloader does when power comes with this card in the slot. The state it leaves and the card as it
 * is afterwards come back; neither argument is changed. A refused card leaves the board as it was.
 */
export function powerOnWithCard(
  state: BoardState,
  card: Card | null,
  board: Board,
  chip: Chip,
): { state: BoardState; card: Card | null; outcome: CardOutcome } {
  const outcome = judge(state, card, board, chip);
  if (!outcome.taken || !card) return { state, card, outcome };
  const file = card.files.find((entry) => entry.name === outcome.name);
  if (!file) throw new Error(`${outcome.name} was taken and is not on the card`);
  return {
    state: { ...state, image: file.bytes, namesTaken: [...state.namesTaken, file.name] },
    card: {
      ...card,
      files: card.files.map((entry) =>
        entry === file ? { ...entry, name: outcome.renamedTo ?? entry.name } : entry,
      ),
    },
    outcome,
  };
}

function judge(state: BoardState, card: Card | null, board: Board, chip: Chip): CardOutcome {
  const route = cardRouteOf(board);
  if (!route) return refuse('no slot', `${board.name} takes no image from a card`);
  if (!hasBootloader(state, board))
    return refuse('no bootloader', 'nothing looked at the card: there may be no bootloader that could');
  if (!card) return refuse('no card', 'there is no card in the slot');
  const [problem] = judgeCard(card, state.namesTaken, route);
  if (problem) return refuse(problem.reason, problem.because);
  const [file] = imagesOn(card.files, route);
  return file ? judgeImage(file.name, file.bytes, route, chip) : refuse('no file', 'the card holds no image');
}

function judgeImage(name: string, bytes: Uint8Array, route: CardRoute, chip: Chip): CardOutcome {
  const read = readImage(bytes);
  if ('problem' in read) {
    const headerless = read.problem === 'no header' || read.problem === 'empty';
    return refuse(headerless ? 'no header' : 'damaged', `the file is no usable image: ${read.problem}`);
  }
  if (read.header.target !== route.target)
    return refuse(
      'other target',
      `the image is made for ${read.header.target}; this board is ${route.target}`,
    );
  if (read.header.loadAddress !== route.load_address) {
    return refuse(
      'other address',
      `the image begins at ${hex(read.header.loadAddress)}; this bootloader starts images at ${hex(route.load_address)}`,
    );
  }
  if (bytes.length > chip.flash_bytes)
    return refuse('too large', `the image has ${bytes.length} bytes; the flash holds ${chip.flash_bytes}`);
  if (!route.rule.renames) return { taken: true, name };
  return { taken: true, name, renamedTo: name.replace(/\.[^.]+$/, '.OLD') };
}

const hex = (address: number) => `0x${address.toString(16)}`;

/** Why nothing runs, and what mends it, as a sentence. */
export interface Silence {
  silent: string;
  mend: string;
}
export type Bootable = { header: ImageHeader; code: Uint8Array } | Silence;

const unflashed = (silent: string): Silence => ({ silent, mend: 'Flash an image first.' });

/** Whether what the flash holds can run: header, target, address and both CRCs must hold. Otherwise the board is silent. */
export function bootable(state: BoardState, board: Board): Bootable {
  const [route] = board.routes;
  const starts = state.fromStart ? 0 : route.load_address;
  if (!state.fromStart && !hasBootloader(state, board))
    return unflashed('there is no bootloader, and nothing else where the chip starts');
  if (state.image === null) return unflashed('the flash is empty');
  const read = readImage(state.image);
  if ('problem' in read) return unflashed(`the flash holds no usable image: ${read.problem}`);
  if (read.header.target !== route.target) return unflashed(`the image is made for ${read.header.target}`);
  if (read.header.loadAddress !== starts) return unflashed('the image begins at another address');
  return read;
}
