import { bodyCalled } from '../machine/bodyCalled';
import { type Facts, partFor } from '../machine/facts';
import { type Warmed, WARMED } from '../machine/machine';
import { heatKey } from './heatKey';
import type { Settings } from './setting';

/** The setting that says whether a heated body is guarded. */
export const guardKey = (body: Warmed): string => `guard.${heatKey(body)}`;

/** Heated bodies whose thermal guard is off by these settings. */
export const guardsOff = (facts: Facts, settings: Settings): Warmed[] =>
  WARMED.filter((body) => partFor(facts, 'heater', body) && settings.get(guardKey(body))?.value === false);

/** A heated body without a thermal guard: on the board as it is now, or with the next image. */
export interface Unguarded {
  what: string;
  on: 'board' | 'next image';
}

/**
 * Which heated bodies have no thermal guard, by the machine file and by the image that lies in the board: a guard that was
 * switched on in the file guards nothing until an image with it is flashed.
 * @param off guard settings that are off in the image on the board; undefined where what it was built with is not known
 */
export function unguarded(facts: Facts, settings: Settings, off: readonly string[] | undefined): Unguarded[] {
  const inFile = new Set(guardsOff(facts, settings));
  return WARMED.flatMap((body): Unguarded[] => {
    if (!partFor(facts, 'heater', body)) return [];
    const guard = `thermal guard of the ${bodyCalled(body)}`;
    const [file, image] = [inFile.has(body), off?.includes(guardKey(body))];
    if (file && image !== false) return [{ what: `The ${guard} is off.`, on: 'board' }];
    if (file) return [{ what: `The ${guard} is off in the machine file. The image on the board has it.`, on: 'next image' }]; // prettier-ignore
    return image
      ? [
          {
            what: `The ${guard} is on in the machine file, but off in the image on the board. Build and flash.`,
            on: 'board',
          },
        ]
      : [];
  });
}
