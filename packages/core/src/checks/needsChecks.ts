import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { SettingValue } from '../kit/settingValue';
import type { Settings } from '../settings/setting';
import { extrudersOf } from '../machine/extruders';
import { isOn } from '../settings/understands';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet } from '../finding/settingFinding';
import type { Check } from './check';

/** An option whose value needs another option, and what there is to do instead. */
interface Need {
  key: string;
  /** Values that need it; any that is on where nothing is said. */
  values?: readonly SettingValue[];
  needs: string;
  /** The value that the other must have; any that is on where nothing is said. */
  as?: SettingValue;
  what: string;
  why: string;
  off: SettingValue;
}

const NEEDS: readonly Need[] = [
  { key: 'tilt.by', values: ['three-point'], needs: 'probe.kind', what: 'The tilt is to be touched at three points, and there is no probe.', why: 'The build would fail. Level by hand, or leave the tilt in.', off: 'by-hand' },
  { key: 'home.z.with', values: ['probe'], needs: 'probe.kind', what: 'Z is to be found with a probe, and there is no probe.', why: 'The build would fail. Home Z with a switch.', off: 'switch' },
  { key: 'map.on', needs: 'probe.kind', what: 'A bed map is to be taken by touch, and there is no probe.', why: 'Nothing of it would be in the image. A map by shim needs none.', off: false },
  { key: 'probe.repeat', needs: 'probe.kind', what: 'The repeatability of a probe is to be told, and there is no probe.', why: 'Nothing of it would be in the image.', off: false },
  { key: 'resume.on', needs: 'card.print', what: 'A print is to be resumed after power loss, and no print comes from the card.', why: 'Only a print from the card knows its place. It would never have anything to go on with.', off: false },
  { key: 'change.on', needs: 'pause.on', what: 'Filament is to be changed, and the image cannot pause.', why: 'A change begins with a pause. Nothing of it would be in the image.', off: false },
  { key: 'display.touch', needs: 'display.kind', as: 'pixel', what: 'A display is to be touched, and none of pixels is there.', why: 'Only a display of pixels has a layer that is touched. The build would fail.', off: false },
  { key: 'driver.report', needs: 'driver.line', what: 'Drivers are to report, and are told at their pots.', why: 'Nobody asks a driver without a line. Nothing of it would be in the image.', off: false },
]; // prettier-ignore

/** Keys of options that an option cannot be on without. */
export const neededBy = (key: string): string[] =>
  NEEDS.filter((need) => need.key === key).map(({ needs }) => needs);

function unmet(_facts: Facts, settings: Settings): Spoken[] {
  return NEEDS.filter(({ key, values, needs, as }) => {
    const value = settings.get(key)?.value;
    const wants = values ? values.some((entry) => entry === value) : isOn(settings, key);
    return wants && (as === undefined ? !isOn(settings, needs) : settings.get(needs)?.value !== as);
  }).map(({ key, needs, what, why, off }) => ({
    subject: aboutSetting(key),
    what,
    why,
    evidence: [asSet(settings, key), asSet(settings, needs)],
    remedies: [
      { label: `Set ${key} to ${String(off)}`, edits: [overrideEdit(key, off, `it needs ${needs}`)] },
    ],
  }));
}

/** One sensor sees one filament. */
function unwatchedFilament(facts: Facts, settings: Settings): Spoken[] {
  const second = extrudersOf(facts)[1];
  if (!second || !isOn(settings, 'filament.sensor') || !isOn(settings, 'extruder.second')) return [];
  return [
    {
      subject: { kind: 'part', id: second.motor.id },
      what: `${facts.kit.name} ${facts.kit.version} watches the filament of the first extruder only.`,
      why: 'When the second one’s filament ends, the print goes on without. Look at its spool before a print with it.',
      evidence: [asSet(settings, 'filament.sensor'), asSet(settings, 'extruder.second')],
    },
  ];
}

/** Options that cannot do without another. */
export const needsChecks: Check[] = [
  { id: 'kit.needs', severity: 'stop', run: unmet },
  { id: 'filament.unwatched', severity: 'note', run: unwatchedFilament },
];
