import { overrideEdit } from '../machine/edit';
import type { Facts } from '../machine/facts';
import type { Spoken } from '../finding/finding';
import { aboutSetting, asSet } from '../finding/settingFinding';
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

export const touchChecks: Check[] = [{ id: 'nudge.leap', severity: 'mend', run: leapingSlider }];
