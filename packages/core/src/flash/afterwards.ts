import { type FlashRoute, isCardRoute } from '../board/route';
import { type Facts, partsOf } from '../machine/facts';
import type { DisplayPart } from '../parts/part';
import type { Settings } from '../settings/setting';

/** Something that shows, or does not show, which image a board runs after a flash. */
export interface Sign {
  id: 'file' | 'drive' | 'display' | 'lamp' | 'sound' | 'fans' | 'settings' | 'display-firmware';
  says: string;
}

/**
 * What to look at once a board was flashed by a route, without asking it: what each sign says and what it does not. Only the
 * board itself says which build it runs.
 */
export function afterwards({ board, ...facts }: Facts, settings: Settings, route: FlashRoute): Sign[] {
  const shown = settings.get('display.kind')?.value;
  const name = settings.get('machine.name')?.value;
  const displays = partsOf({ board, ...facts }, 'display');
  const signs: (Sign | undefined)[] = [
    isCardRoute(route)
      ? {
          id: 'file',
          says: route.rule.renames
            ? 'The file on the card: renamed to end in .OLD it was taken; with its own name it was left alone.'
            : 'The file on the card keeps its name either way: it says nothing.',
        }
      : undefined,
    route.kind === 'drive'
      ? { id: 'drive', says: 'The drive: it leaves by itself when it has every block; while it stays, it misses some.' }
      : undefined,
    shown === undefined || shown === 'none'
      ? { id: 'display', says: 'No display is set up: nothing shows a name. Ask the board over its link.' }
      : { id: 'display', says: `The display: it shows ${String(name)}. Give the name a date or a version, and the old one cannot be taken for the new.` },
    { id: 'lamp', says: 'The lamp beside the chip: it says that the logic has power, not which image runs.' },
    { id: 'sound', says: 'A sound: this kit makes none at the start, with or without a beeper.' },
    { id: 'fans', says: 'Fans: they stand still while everything is cold. One that turns at full speed from the start says that nothing runs, or that it is wired straight to the supply.' },
    { id: 'settings', says: 'Stored settings outlive the flash. Reset and store them after each one, or only when the board says that their layout was another: both are a step of Bring-up.' },
    ...displays.slice(0, 1).map(({ type }): Sign => ({ id: 'display-firmware', says: ownFirmware(type) })),
  ];
  return signs.filter((sign) => sign !== undefined);
} // prettier-ignore

/** Whether anything of a display is flashed apart from the board, as far as its file says. */
function ownFirmware({ name, firmware }: DisplayPart): string {
  if (firmware === 'none')
    return `${name} is drawn by the board: its words and pictures come with this image, and nothing of it is flashed apart.`;
  const apart = 'are a flash of their own, by its own slot or port; the printer works without.';
  return firmware === 'own'
    ? `Firmware and pictures of ${name} itself ${apart}`
    : `Whether ${name} has firmware and pictures of its own is not known. Where it has, they ${apart}`;
}
