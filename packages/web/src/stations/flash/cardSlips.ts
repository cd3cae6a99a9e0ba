import { CARD_CHECKS } from '@jolly/core/checks/cardChecks';
import type { CardOutcome } from '@jolly/core/flash/cardOutcome';
import type { Slip } from '../../app/docket/slip';
import type { Losses } from '../survey/useTakenAway';
import { lowerFirst, upperFirst } from '../../ui/letterCase';

/** What goes with the present image, until somebody has seen it. */
export function lossSlips(
  machineId: string,
  losses: Losses | undefined,
  { seen, flashed }: { seen: boolean; flashed: boolean },
): Slip[] {
  if (!losses || seen || (losses.state === 'known' && losses.list.length === 0)) return [];
  const many = losses.list.length;
  const which = flashed ? 'The image in the board' : 'The next image';
  const takes = flashed ? 'took' : 'takes';
  return [
    {
      id: 'losses',
      severity: 'mend',
      what:
        losses.state === 'known'
          ? `${which} ${takes} ${many} ${many === 1 ? 'thing' : 'things'} away.`
          : `What ${lowerFirst(which)} ${takes} away is not known yet.`,
      why: flashed
        ? 'What the old image did and this one does not is missing now. See whether you can do without.'
        : 'What the present image does and the next does not is gone once it is flashed.',
      evidence: losses.list.slice(0, 6).map(({ label, lost }) => `${label}: ${lost}`),
      actions: [{ label: 'See what goes', go: `/machines/${machineId}/survey?at=losses` }],
    },
  ];
}

/** How the image to be flashed stands to the settings as they are; `again` is an older one, on purpose. */
type Newest = 'none' | 'older' | 'again' | 'as they are';

const NOT_TO_FLASH: Record<Exclude<Newest, 'as they are'>, Pick<Slip, 'what' | 'why'>> = {
  none: {
    what: 'There is no image for this board yet.',
    why: 'Nothing can go onto the card before something is built for it.',
  },
  older: {
    what: 'The newest image is not made from the settings as they are.',
    why: 'You would flash yesterday’s settings. Build again first.',
  },
  again: {
    what: 'This image is not made from the settings as they are.',
    why: 'You flash an earlier one again. The board will do as it did then, not as Settings shows it now.',
  },
};

interface CardRecord {
  outcome: CardOutcome | undefined;
  taken: boolean;
  newest: Newest;
  /** What the flash holds. */
  image: { name: string; buildId: string } | undefined;
  suggested: string;
}

/** What the docket says of the card, the flash and the newest image. */
export function cardSlips(
  machineId: string,
  { outcome, taken, newest, image, suggested }: CardRecord,
): Slip[] {
  const all: Slip[] = [];
  if (outcome && !outcome.taken) {
    all.push({
      id: `refused:${outcome.reason}`,
      severity: 'stop',
      ...(CARD_CHECKS[outcome.reason] && { check: CARD_CHECKS[outcome.reason] }),
      what: 'The board did not take the file.',
      why: `${upperFirst(outcome.because)}.${outcome.reason === 'name used' ? ` Switch off, write the card again as ${suggested}, and switch on.` : ''}`,
      evidence: [
        image
          ? `the flash still holds ${image.name}, build ${image.buildId}`
          : 'the flash still holds what it held, which is not on record',
      ],
      actions: [],
    });
  }
  if (taken && image) {
    all.push({
      id: 'taken',
      severity: 'proven',
      what: 'The board took the image.',
      why: 'Its flash holds what you built. Ask the board itself in Bring-up.',
      evidence: [
        `flash: ${image.name}, build ${image.buildId}`,
        ...(outcome?.taken && outcome.renamedTo ? [`card: ${outcome.name} is now ${outcome.renamedTo}`] : []),
      ],
      actions: [{ label: 'To Bring-up', go: `/machines/${machineId}/bring-up` }],
    });
  }
  if (newest !== 'as they are')
    all.push({
      id: 'stale',
      severity: 'mend',
      ...NOT_TO_FLASH[newest],
      evidence: [],
      actions: [{ label: 'To Build', go: `/machines/${machineId}/build` }],
    });
  return all;
}
