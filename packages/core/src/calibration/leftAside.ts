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

interface ValueOf {
  /** What the id of the figure looks like. */
  looks: RegExp;
  /** The setting it is the value of; `$1` is what the pattern found. */
  key: string;
  /** It counts only while another setting says so. */
  while?: readonly [key: string, value: SettingValue];
  /** The figure that it was found beside: one that is newer leaves nothing of it. */
  beside?: string;
}

/** Figures on record that are the value of a setting. */
const VALUE_OF: readonly ValueOf[] = [
  { looks: /^offset-([xyz])$/, key: 'probe.offset.$1' },
  { looks: /^nudge-start$/, key: 'nudge.start', while: ['nudge.on', true], beside: 'offset-z' },
  { looks: /^steps-((?:second-)?e)$/, key: 'steps.$1' },
  { looks: /^current-([xyze]|second-e)$/, key: 'current.$1' },
  { looks: /^([pid])-([\w-]+)$/, key: 'pid.$2.$1' },
  { looks: /^lead$/, key: 'lead.time', while: ['lead.on', true] },
  { looks: /^second-lead$/, key: 'lead.time.second-e', while: ['lead.on', true] },
  { looks: /^corner-deviation$/, key: 'corner.deviation', while: ['corner.by', 'deviation'] },
  { looks: /^corner-jolt-([xy])$/, key: 'corner.jolt.$1', while: ['corner.by', 'jolt'] },
];

const valueOf = (id: string): ValueOf | undefined => VALUE_OF.find(({ looks }) => looks.test(id));

/** The setting a figure on record is the value of; undefined for one that only tells how it went. */
export function settingOfFigure(id: string): string | undefined {
  const found = valueOf(id);
  return found && id.replace(found.looks, found.key);
}

type Newest = ReadonlyMap<string, { figure: Figure; from: Measured }>;

function counts(settings: Settings, newest: Newest, id: string): boolean {
  const { while: says, beside } = valueOf(id) ?? {};
  const voided = beside !== undefined && atMs(newest, beside) > atMs(newest, id);
  return !voided && (says === undefined || settings.get(says[0])?.value === says[1]);
}

const atMs = (newest: Newest, id: string): number => newest.get(id)?.from.atMs ?? -Infinity;

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
    if (key === undefined || typeof setting?.value !== 'number' || !counts(settings, newest, figure.id))
      return [];
    const has = setting.value;
    if (alike(figure.value, has)) return [];
    const { label, unit, value } = figure;
    return [{ calibration: from.calibration, key, label, unit, measured: value, has }];
  });
}
