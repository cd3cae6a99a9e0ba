import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';

/** A first layer is about 0.2 mm: half of it still lies between nozzle and plate. */
const MOST_LEAP_MM = 0.1;

function leapingSlider(_facts: Facts, settings: Settings): Spoken[] {
  const leap = numberOf(settings, 'touch.leap');
  if (leap <= MOST_LEAP_MM) return [];
  if (!isOn(settings, 'display.touch') || !isOn(settings, 'nudge.on')) return [];
  return [
    {
      subject: aboutSetting('touch.leap'),
      what: `One touch of the display's slider may take the nozzle ${leap.toFixed(2)} mm lower.`,
      why: 'A finger that slips rams the nozzle into the plate during the first layer. Let the slider move little at a touch.',
      evidence: [asSet(settings, 'touch.leap')],
      remedies: [
        { label: 'Set touch.leap to 0.05 mm', edits: [overrideEdit('touch.leap', 0.05, 'a slider that leaps rams the plate')] }, // prettier-ignore
      ],
    },
  ];
}

/** What a first layer is nudged by; more is an offset that wants measuring. */
const MOST_NUDGE_MM = 0.5;

function farNudge(_facts: Facts, settings: Settings): Spoken[] {
  const nudge = numberOf(settings, 'nudge.start');
  if (!isOn(settings, 'nudge.on') || Math.abs(nudge) <= MOST_NUDGE_MM) return [];
  return [
    {
      subject: aboutSetting('nudge.start'),
      what: `Every move is made ${Math.abs(nudge).toFixed(2)} mm ${nudge < 0 ? 'lower' : 'higher'} than it is asked.`,
      why:
        nudge < 0
          ? 'The nozzle meets the plate in the first layer. Measure the Z offset again, and nudge by tenths of a millimetre.'
          : 'The first layer does not hold. Measure the Z offset again, and nudge by tenths of a millimetre.',
      evidence: [asSet(settings, 'nudge.start', 'mm')],
      remedies: resetRemedy(settings, 'nudge.start'),
    },
  ];
}

/** Nudges that go farther than a first layer is thick. */
export const nudgeChecks: Check[] = [
  { id: 'nudge.leap', severity: 'mend', run: leapingSlider },
  { id: 'nudge.far', severity: 'mend', run: farNudge },
];
