import type { SettingValue } from '../kit/settingValue';
import { alike } from '../settings/alike';
import type { Settings } from '../settings/setting';
import type { Figure } from './calibrationTool';
import type { Measured } from './measured';

/** A value that was measured, and that the machine file does not have. */
export interface LeftAside {
  calibration: string;
  /** The setting it is a value of. */
  key: string;
  label: string;
  unit: string;
  measured: number;
  has: number;
}

/** Figures on record that are the value of a setting, by what their id looks like; some count only while another setting says so. */
const SETTING_OF: readonly [
  looks: RegExp,
  key: string,
  counts?: readonly [key: string, value: SettingValue],
][] = [
  [/^offset-([xyz])$/, 'probe.offset.$1'],
  [/^steps-((?:second-)?e)$/, 'steps.$1'],
  [/^current-([xyze]|second-e)$/, 'current.$1'],
  [/^([pid])-([\w-]+)$/, 'pid.$2.$1'],
  [/^lead$/, 'lead.time', ['lead.on', true]],
  [/^second-lead$/, 'lead.time.second-e', ['lead.on', true]],
  [/^corner-deviation$/, 'corner.deviation', ['corner.by', 'deviation']],
  [/^corner-jolt-([xy])$/, 'corner.jolt.$1', ['corner.by', 'jolt']],
];

/** The setting a figure on record is the value of; undefined for one that only tells how it went. */
export function settingOfFigure(id: string): string | undefined {
  const found = SETTING_OF.find(([looks]) => looks.test(id));
  return found && id.replace(found[0], found[1]);
}

function counts(settings: Settings, id: string): boolean {
  const [key, value] = SETTING_OF.find(([looks]) => looks.test(id))?.[2] ?? [];
  return key === undefined || settings.get(key)?.value === value;
}

/**
 * What was measured last and is not what the machine has: written down only, or set otherwise since. A value that two
 * tools measure is the newer one's; what somebody says they did another way, or was not good enough, gives none.
 */
export function leftAside(settings: Settings, measured: readonly Measured[]): LeftAside[] {
  const newest = new Map<string, { figure: Figure; from: Measured }>();
  for (const from of measured)
    for (const figure of from.outcome === 'found' ? (from.figures ?? []) : [])
      if (from.atMs >= (newest.get(figure.id)?.from.atMs ?? -Infinity))
        newest.set(figure.id, { figure, from });
  return [...newest.values()].flatMap(({ figure, from }): LeftAside[] => {
    const key = settingOfFigure(figure.id);
    const setting = key === undefined ? undefined : settings.get(key);
    if (key === undefined || typeof setting?.value !== 'number' || !counts(settings, figure.id)) return [];
    const has = setting.value;
    if (alike(figure.value, has)) return [];
    const { label, unit, value } = figure;
    return [{ calibration: from.calibration, key, label, unit, measured: value, has }];
  });
}
