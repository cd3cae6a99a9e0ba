import { SECOND_HOTEND, type Warmed } from '../machine/machine';
import { heatKey } from '../settings/heatKey';
import { numberOf } from '../settings/setting';
import type { Said } from './consequence';
import type { Stage } from './stage';
import { touchedBy } from '../machine/touched';

/** What a slicer is told the highest temperature of. */
const HIGHEST: readonly [Warmed, string][] = [['hotend', 'nozzle'], [SECOND_HOTEND, 'second nozzle'], ['bed', 'bed']]; // prettier-ignore

/** Lines to change in the slicer, with the values of this machine. */
export function slicerRules(stage: Stage): Said[] {
  const { before, after, settingsBefore, settingsAfter, touched } = stage;
  const said: Said[] = [];
  const add = (subject: string, title: string, because: string, from?: string, to?: string) =>
    said.push({
      kind: 'slicer',
      subject,
      title,
      because,
      ...(from !== undefined && { from }),
      ...(to !== undefined && { to }),
    });
  const volume = (of: typeof before) => {
    const { bed_mm: bed, travel_mm: travel } = of.machine.frame;
    return `${bed.x[1] - bed.x[0]} × ${bed.y[1] - bed.y[0]} × ${travel.z[1]} mm`;
  };
  if (volume(before) !== volume(after))
    add('volume', 'Build volume', 'the slicer must not plan outside it', volume(before), volume(after));
  const found = (stageSettings: typeof settingsBefore) => String(stageSettings.get('home.z.with')?.value);
  if (found(settingsBefore) !== found(settingsAfter))
    add(
      'start-home',
      'Start G-code: home after warming, with an empty plate',
      'the place where Z is found has moved onto the plate',
      `G28 at the ${found(settingsBefore)}`,
      `M140, M190, then G28 at the ${found(settingsAfter)}`,
    );
  for (const [body, what] of HIGHEST) {
    const key = `heat.${heatKey(body)}.max`;
    const [was, is] = [settingsBefore.get(key)?.value, settingsAfter.get(key)?.value];
    if (was !== is)
      add(
        key,
        `Highest ${what} temperature`,
        'above it the firmware stops',
        `${String(was)} °C`,
        `${String(is)} °C`,
      );
  }
  if (touchedBy(touched, ['nozzle']))
    add('nozzle', 'Nozzle diameter', 'line widths follow from it; check the profile', undefined, undefined);
  if (touchedBy(touched, ['driver.*', 'motor.*'])) {
    const slowest = Math.min(numberOf(settingsAfter, 'speed.x'), numberOf(settingsAfter, 'speed.y'));
    add(
      'speeds',
      'Highest travel speed in profiles',
      'other drivers and motors lose force at another speed',
      undefined,
      `at most ${slowest} mm/s until proven`,
    );
  }
  return said;
}
