import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import { aboutSetting, asSet } from '../finding/settingFinding';
import type { Remedy, Spoken } from '../finding/finding';
import { mapReaches, NOTED_EVERY_S, noteReaches } from '../kit/storeRoom';
import { storedBytes } from '../kit/storedSettings';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import { bytesInWords } from '../text/bytesInWords';
import type { Check } from './check';

const HOUR_S = 3600;
/** A store that is worn out sooner is told of: some years of an hour's printing a day. */
const LASTS_HOURS = 1000;

function storeTooSmall({ kit, chip }: Facts, settings: Settings): Spoken[] {
  if (settings.get('store.kept')?.value !== true || storedBytes(kit) <= chip.store.bytes) return [];
  return [
    {
      subject: aboutSetting('store.kept'),
      what: `Stored settings take ${bytesInWords(storedBytes(kit))}; ${chip.name} keeps ${bytesInWords(chip.store.bytes)}.`,
      why: 'What does not fit is lost at power-off, without a word.',
      evidence: [
        `${kit.name} ${kit.version}: ${bytesInWords(storedBytes(kit))}`,
        `${chip.name}: ${bytesInWords(chip.store.bytes)}`,
      ],
      remedies: [
        {
          label: 'Do not keep settings',
          edits: [overrideEdit('store.kept', false, `${chip.name} has no room for them`)],
        },
      ],
    },
  ];
}

/** A line of start G-code that takes the kept map up. */
const TAKEN_UP = /^\s*map use\b/m;

/** A map that is to be restored after homing is there after a power-off only if it was kept. */
function mapLost({ chip, machine }: Facts, settings: Settings): Spoken[] {
  const maps = isOn(settings, 'map.on') || isOn(settings, 'map.shim');
  const restored = settings.get('map.after-home')?.value === 'restored';
  if (!maps || !(restored || TAKEN_UP.test(machine.slicer?.start ?? ''))) return [];
  const points = numberOf(settings, 'map.columns') * numberOf(settings, 'map.rows');
  const wants = mapReaches(points, isOn(settings, 'offsets.on'));
  const kept = isOn(settings, 'store.kept');
  if (kept && wants <= chip.store.bytes) return [];
  return [
    {
      subject: aboutSetting(kept ? 'map.columns' : 'store.kept'),
      what: kept
        ? `A map of ${points} points reaches to byte ${wants} of the store; ${chip.name} keeps ${chip.store.bytes} bytes. It is gone at power-off.`
        : 'Nothing is stored, so the map is gone at power-off.',
      why: 'After the next start there is no map to restore: the first layer is printed as if the plate were flat, or the start G-code is refused.',
      evidence: [asSet(settings, 'map.after-home'), kept ? `${points} points` : asSet(settings, 'store.kept'), `${chip.name}: ${bytesInWords(chip.store.bytes)}`],
      remedies: isOn(settings, 'probe.kind') ? [probeAfresh()] : [],
    },
  ];
} // prettier-ignore

const probeAfresh = (): Remedy => ({
  label: 'Probe afresh after homing',
  edits: [overrideEdit('map.after-home', 'probed-afresh', 'a kept map is lost at power-off')],
});

/** With a card that is never written, the place of a print is noted in the store. */
const notesInStore = (settings: Settings): boolean =>
  isOn(settings, 'resume.on') && isOn(settings, 'card.print') && isOn(settings, 'card.locked');

function noteLost({ chip }: Facts, settings: Settings): Spoken[] {
  const wants = noteReaches(isOn(settings, 'offsets.on'));
  if (!notesInStore(settings) || wants <= chip.store.bytes) return [];
  return [
    {
      subject: aboutSetting('resume.on'),
      what: `The place of a print would reach to byte ${wants} of the store; ${chip.name} keeps ${chip.store.bytes} bytes. It is not noted.`,
      why: 'The card is never written, so it is noted in the chip’s store or nowhere: after a power cut there is nothing to go on with.',
      evidence: [asSet(settings, 'resume.on'), asSet(settings, 'card.locked'), `${chip.name}: ${bytesInWords(chip.store.bytes)}`],
      remedies: [noteOnCard()],
    },
  ];
} // prettier-ignore

const noteOnCard = (): Remedy => ({
  label: 'Let the note be written on the card',
  edits: [overrideEdit('card.locked', false, 'the place of a print is noted on it')],
});

function noteWears({ chip }: Facts, settings: Settings): Spoken[] {
  const { writes } = chip.store;
  if (!notesInStore(settings) || writes === undefined) return [];
  const hours = Math.round((writes * NOTED_EVERY_S) / HOUR_S);
  if (hours >= LASTS_HOURS) return [];
  return [
    {
      subject: aboutSetting('resume.on'),
      what: `The place of a print is noted in the chip’s store at each layer, and every ${NOTED_EVERY_S} s or more between: it is worn out after some ${hours} h of printing, sooner with quick layers.`,
      why: 'A store that is worn out keeps no settings either. A card stands this far longer.',
      evidence: [asSet(settings, 'resume.on'), asSet(settings, 'card.locked'), `${chip.name}: ${writes} writes at a place`],
      remedies: [noteOnCard()],
    },
  ];
} // prettier-ignore

function wearUnknown({ chip }: Facts, settings: Settings): Spoken[] {
  if (!notesInStore(settings) || chip.store.writes !== undefined) return [];
  return [
    {
      subject: aboutSetting('resume.on'),
      what: `How often the store of ${chip.name} can be written is not known.`,
      why: 'The place of a print is noted there at each layer, and between. A store that is worn out keeps no settings either.',
      evidence: [asSet(settings, 'resume.on'), asSet(settings, 'card.locked')],
      remedies: [noteOnCard()],
    },
  ];
}

/** What a board keeps over a power-off, and how long its store stands it. */
export const storeChecks: Check[] = [
  { id: 'store.too-small', severity: 'stop', run: storeTooSmall },
  { id: 'store.map-lost', severity: 'mend', run: mapLost },
  { id: 'store.note-lost', severity: 'mend', run: noteLost },
  { id: 'store.worn', severity: 'mend', run: noteWears },
  { id: 'store.wear-unknown', severity: 'question', run: wearUnknown },
];
