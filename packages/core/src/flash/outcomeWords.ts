import { type FlashRoute, isWired, needsBootloader } from '../board/route';
import type { CardOutcome, FlashReason } from './cardOutcome';
import { by } from './routeWords';

/** What came of writing by a tool, in words; causes the likeliest first. */
export interface OutcomeWords {
  severity: 'proven' | 'mend' | 'stop';
  what: string;
  why: string;
  causes?: { cause: string; look: string }[];
}
type Does = 'try' | 'write' | 'bootloader';

const CAUSES: Partial<Record<FlashReason, readonly { cause: string; look: string; on?: FlashRoute['kind'][] }[]>> = {
  'no answer': [
    { cause: 'It is another port, or another speed', look: 'Unplug, look at the list of ports, plug in: the one that appears is the board. Compare the speed.', on: ['serial'] },
    { cause: 'The moment after the reset was missed', look: 'Reset the board and call at once.', on: ['serial'] },
    { cause: 'There is no bootloader', look: 'Take the wires, or install one.', on: ['serial', 'update-class', 'drive'] },
    { cause: 'The loader was not started', look: 'Bridge or press as the step says, and reset once more.', on: ['drive', 'update-class'] },
    { cause: 'The USB lead only charges', look: 'Take one with which another device was seen.', on: ['drive', 'update-class', 'serial'] },
    { cause: 'Two wires are exchanged, or a label means the other side', look: 'Follow each wire from pad to pad on the drawing.', on: ['programmer', 'probe'] },
    { cause: 'The chip has no voltage', look: 'Measure between the pads of voltage and ground.', on: ['programmer', 'probe'] },
    { cause: 'Ground is missing', look: 'Measure from the tool’s ground to the board’s.', on: ['programmer', 'probe'] },
  ],
  'port held': [{ cause: 'Another program has the port', look: 'Close slicers, terminals and other windows that talk to the board.' }],
  'other chip': [{ cause: 'It is another board or revision', look: 'Read the marking on the chip, and go back to Survey.' }],
  locked: [{ cause: 'The lock words keep tools out of the bootloader', look: 'Write behind it, or install a bootloader: that unlocks it.' }],
  'left alone': [{ cause: 'The file is for another family of chips', look: 'Copy the .uf2 of a build for this board.' }],
  differs: [
    { cause: 'A wire is too long or loose', look: 'Take shorter wires, and write again.' },
    { cause: 'The flash is worn out', look: 'Write once more; if the same page differs again, the chip is done for.' },
  ],
}; // prettier-ignore

/** What the board is like after writing broke off in the middle, and the way out of it. */
function afterPart(route: FlashRoute, does: Does, fromStart: boolean): string {
  if (does === 'bootloader' || fromStart)
    return `What stands at the start of the flash is half written: the board is silent, and no card and no lead reaches it. The wires still do: write it again ${by(route)}.`;
  if (needsBootloader(route))
    return `Part of the image is written, so the board does not start it. Its bootloader was not touched: begin again ${by(route)}.`;
  return `Part of the image is written, so the board does not start it. Begin again ${by(route)}${isWired(route) ? '' : ', which lies in ROM'}.`;
}

const DONE: Record<Does, (route: FlashRoute) => Pick<OutcomeWords, 'what' | 'why'>> = {
  try: (route) => ({
    what: needsBootloader(route) ? 'Its bootloader answers.' : 'The chip answers.',
    why: 'Nothing was written. It is the right port, the right speed and the right chip.',
  }),
  write: (route) => ({
    what:
      route.kind === 'drive'
        ? 'The drive took every block and left by itself.'
        : 'It is written, and reads back the same.',
    why: 'The flash holds it. That it runs is another matter: switch on, and ask the board itself in Bring-up.',
  }),
  bootloader: () => ({
    what: 'The bootloader is installed, and reads back the same.',
    why: 'The lock words keep tools out of it now. The rest of the flash is as it was, or erased where unlocking does that: flash an image next.',
  }),
};

/** What to tell of an outcome of a tool: what it was, what it means for the board, and where to look. */
export function outcomeWords(
  route: FlashRoute,
  does: Does,
  outcome: CardOutcome,
  fromStart: boolean,
): OutcomeWords {
  if (outcome.taken && outcome.toolSaid)
    return {
      severity: 'mend',
      what: `${outcome.toolSaid.charAt(0).toUpperCase()}${outcome.toolSaid.slice(1)}.`,
      why: 'That says little: the image may be there all the same. Switch on and ask the board who it is before you write again.',
    };
  if (outcome.taken) return { severity: 'proven', ...DONE[does](route) };
  const causes = (CAUSES[outcome.reason] ?? []).filter(({ on }) => !on || on.includes(route.kind));
  const stays =
    does === 'try' ? 'Nothing was written.' : 'Nothing was written: the board holds what it held.';
  return {
    severity: does === 'try' ? 'mend' : 'stop',
    what: `${outcome.because.charAt(0).toUpperCase()}${outcome.because.slice(1)}.`,
    why: outcome.partly ? afterPart(route, does, fromStart) : stays,
    ...(causes.length > 0 && { causes: causes.map(({ cause, look }) => ({ cause, look })) }),
  };
}
