import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { type CardRule, fixedName } from '../board/cardRule';
import {
  type CardRoute,
  type FlashRoute,
  type RouteKind,
  type UsbRoute,
  type WiredRoute,
} from '../board/route';

/** Something a person may see go wrong on a route, why, and the way out. */
export interface Trouble {
  sees: string;
  because: string;
  out: string;
}

/** A route to a board, in words. */
export interface RouteWords {
  title: string;
  /** When one takes it. */
  takeIt: string;
  /** What has to lie on the table. */
  needs: { id: string; what: string }[];
  /** What may be powered meanwhile. */
  power: string;
  /** What it costs. */
  costs: string[];
  trouble: Trouble[];
}

const KEEPS_BOOTLOADER = 'The bootloader stays; so do the stored settings.';
const STORED = 'Stored settings stay, also those of another layout: look at them in Bring-up.';
const WRONG_IMAGE: Trouble = {
  sees: 'It was written, and the board stays dark or silent.',
  because: 'The image is for another board, or begins at another address than this board starts from.',
  out: 'Build for this board, and flash again: by its bootloader where that still answers, else by wires.',
};

const cardNaming = (rule: CardRule): string => {
  if (rule.kind === 'fixed') return `Name it ${fixedName(rule)}`;
  return rule.ignoresRepeat ? 'Give it a name it has not had' : 'Put it onto the card again';
};

const cardTrouble = ({ rule, max_card_gb: most }: CardRoute): Trouble[] => [
  {
    sees: rule.renames ? 'The board starts as before, and the file keeps its name.' : 'The board starts as before.',
    because: `${rule.ignoresRepeat ? 'It had a file of that name before, it' : 'It'} cannot read the card${rule.kind === 'fixed' ? ', the name is another one' : ''}, or two images lie on it.`,
    out: `${cardNaming(rule)}, alone in the root of a FAT32 card of at most ${most} GB, and switch off and on.`,
  },
  {
    sees: 'The board reads no card at all.',
    because: 'There is no bootloader, or a plug sits on a pin of the card slot.',
    out: 'Try another card first. Then install a bootloader by wires, which is a job of its own.',
  },
  WRONG_IMAGE,
]; // prettier-ignore

const card = (route: CardRoute, board: Board): RouteWords => ({
  title: 'By card',
  takeIt: 'It needs nothing but a card, and keeps the board apart from the computer.',
  needs: [{ id: 'card', what: `a card of at most ${route.max_card_gb} GB, FAT32` }],
  power: 'Off while the card goes in. Then whatever powers the board otherwise.',
  costs: [KEEPS_BOOTLOADER, `A walk to ${board.name} for every update.`],
  trouble: cardTrouble(route),
});

const cardOverUsb = (route: CardRoute, board: Board): RouteWords => ({
  title: 'Card over USB',
  takeIt: 'The card stays in its slot; while the board has power it shows the card to the computer as a drive.',
  needs: [
    { id: 'card', what: `a card of at most ${route.max_card_gb} GB, FAT32, in the slot` },
    { id: 'usb', what: 'a USB lead that carries data' },
  ],
  power: usbPower(board),
  costs: [KEEPS_BOOTLOADER, 'The computer and the board are connected: unplug the lead before you print.'],
  trouble: [
    {
      sees: 'No drive appears.',
      because: 'The lead only charges, the slot is empty, or the board has no power.',
      out: 'Take another lead. Else put the card into the computer itself.',
    },
    ...cardTrouble(route),
  ],
}); // prettier-ignore

const serial = (_route: FlashRoute, board: Board): RouteWords => ({
  title: 'USB serial',
  takeIt: 'It needs a lead only, where there is a bootloader. Nobody can tell without trying, and trying is harmless.',
  needs: [{ id: 'usb', what: 'a USB lead that carries data' }],
  power: usbPower(board),
  costs: [KEEPS_BOOTLOADER, STORED],
  trouble: [
    {
      sees: 'No answer to the call.',
      because: 'There is no bootloader, it is another port, the speed is another one, or another program holds the port.',
      out: 'Close other programs, look at the port, try again right after the reset. Without a bootloader take the wires.',
    },
    {
      sees: 'The tool reports an error at the end.',
      because: 'The image may be there all the same.',
      out: 'Ask the board who it is before you flash again.',
    },
    {
      sees: 'It broke off in the middle.',
      because: 'The lead was pulled or the power went. Part of the image is written.',
      out: 'The bootloader is still there: begin again.',
    },
    WRONG_IMAGE,
  ],
}); // prettier-ignore

const wired =
  (tool: string, count: number) =>
  (route: WiredRoute, board: Board, chip: Chip): RouteWords => ({
    title: `${count === 6 ? 'Six' : 'Three'} wires`,
    takeIt: `It needs no bootloader, and writes one where there is none. It brings back a board that no other route reaches.`,
    needs: [
      { id: route.kind, what: `a ${tool}` },
      { id: 'wires', what: 'a jumper wire for each pad that is used' },
    ],
    power: `Nothing while you wire: no supply, no USB. Then one side gives the voltage, never both. ${chip.name} wants ${chip.level_v} V.`,
    costs: [
      'A trip of the tool for every update, if you take it each time.',
      'The bootloader stays unless you install one or build without one; the stored settings stay.',
    ],
    trouble: [
      {
        sees: 'The tool gets no answer.',
        because: 'Two wires are exchanged, a label means the other side, the board has no voltage, or ground is missing.',
        out: 'Unplug, follow each wire from pad to pad, and look which side gives the voltage.',
      },
      {
        sees: 'The tool finds another chip.',
        because: `This is not the board you took it for. A ${chip.name} says ${chip.programming?.signature ?? 'nothing we know'}.`,
        out: 'Read the marking on the chip, and go back to Survey.',
      },
      {
        sees: 'Writing is refused.',
        because: 'The lock words keep tools out of the bootloader.',
        out: chip.programming?.unlock_erases
          ? 'Unlocking erases everything in this chip. Keep what you can first.'
          : 'Unlock it where you install a bootloader; an image alone needs no unlocking.',
      },
      {
        sees: 'It broke off in the middle.',
        because: 'A wire slipped. Part of the flash is written, and the board is silent.',
        out: 'Wire it again and begin again: the wires need nothing that lies in the flash.',
      },
      WRONG_IMAGE,
    ],
  }); // prettier-ignore

const usbOf =
  (title: string, takeIt: string) =>
  (route: UsbRoute, board: Board): RouteWords => ({
    title,
    takeIt,
    needs: [{ id: 'usb', what: 'a USB lead that carries data' }],
    power: usbPower(board),
    costs: [
      route.in_rom ? 'Its loader lies in ROM: nothing can overwrite it.' : KEEPS_BOOTLOADER,
      ...(route.in_rom ? [STORED] : []),
    ],
    trouble: [
      {
        sees: route.kind === 'drive' ? 'No drive appears.' : 'The computer finds no device.',
        because: 'The board was not started into its loader, or the lead only charges.',
        out: `${route.boot}; keep it so while you reset the board. Take another lead if that does not help.`,
      },
      route.kind === 'drive'
        ? {
            sees: 'The drive stays, with the file on it.',
            because: 'The file is for another family of chips; such blocks are left alone.',
            out: 'Build for this board, and copy the .uf2 of that build.',
          }
        : {
            sees: 'It stops at the first block.',
            because: 'The file is meant for an address that lies in the loader itself, or outside the flash.',
            out: 'Build for this board, and take the .bin of that build.',
          },
      {
        sees: 'It broke off in the middle.',
        because: 'The lead was pulled. Part of the image is written.',
        out: 'Start the loader again in the same way, and begin again.',
      },
      WRONG_IMAGE,
    ],
  }); // prettier-ignore

const host = (_route: FlashRoute, board: Board): RouteWords => ({
  title: 'From the host',
  takeIt: 'The computer that drives the board flashes it with its own tool. It belongs to host-driven firmware; the kit of this machine runs on the board.',
  needs: [],
  power: usbPower(board),
  costs: ['Without its host the printer does nothing.'],
  trouble: [
    {
      sees: 'The tool reports an error.',
      because: 'The image may be there all the same.',
      out: 'Ask the board who it is before you flash again.',
    },
  ],
}); // prettier-ignore

/** Whether USB alone powers the logic, as the board's jumpers say. */
function usbPower(board: Board): string {
  const jumper = board.jumpers?.find(({ sets }) => sets === 'usb power');
  const position = jumper?.positions.find(({ power }) => power === 'usb');
  return jumper && position
    ? `USB alone powers the logic with jumper ${jumper.id} at ${position.id}; else the supply has to be on. Motors and heaters stay without power.`
    : 'USB powers the logic of this board, or its supply does; it has no jumper for that. Leave the supply off unless nothing answers.';
}

const WORDS: Readonly<Record<RouteKind, (route: never, board: Board, chip: Chip) => RouteWords>> = {
  card,
  'card-over-usb': cardOverUsb,
  serial,
  programmer: wired('programmer', 6),
  probe: wired('debug probe', 3),
  drive: usbOf('USB drive', 'The board shows itself as a drive; you copy one file, and it leaves by itself. No tool is needed.'),
  'update-class': usbOf('USB update', 'The computer writes it by the class for firmware updates, and reads it back.'),
  host,
}; // prettier-ignore

/** What there is to say of a route to this board. */
export const routeWords = (route: FlashRoute, board: Board, chip: Chip): RouteWords =>
  // Each entry takes the routes of its own key.
  (WORDS[route.kind] as (route: FlashRoute, board: Board, chip: Chip) => RouteWords)(route, board, chip);

/** What flashing a board by its first route wants on the table. */
export const onTheTable = (board: Board, chip: Chip): { id: string; what: string; because: string }[] =>
  routeWords(board.routes[0], board, chip).needs.map((need) => ({
    ...need,
    because: `${board.name} is flashed ${by(board.routes[0])}`,
  }));

const BY: Readonly<Record<RouteKind, string>> = {
  card: 'by card',
  'card-over-usb': 'by its card over USB',
  serial: 'over USB serial',
  programmer: 'by programmer',
  probe: 'by debug probe',
  drive: 'as a USB drive',
  'update-class': 'by USB update',
  host: 'from the host',
};
/** A route within a sentence. */
export const by = ({ kind }: Pick<FlashRoute, 'kind'>): string => BY[kind];
