import { optionOf } from '../kit/optionOf';
import type { DumpValue } from '../report/parseDump';
import { type Kit, type Option, readNow } from '../kit/kit';
import { isOn } from '../settings/understands';
import type { Facts } from '../machine/facts';
import { derive } from '../settings/derive';
import { inUnitOf } from '../settings/carryOver';

/** Something the present image can do, or is set to, and the new one cannot. */
export interface TakenAway {
  /** The option's key, or the report's own where the kit has none. */
  key: string;
  label: string;
  /** What is lost, in a sentence. */
  lost: string;
  /** How it is known that the present image has it. */
  known: 'by its kit' | 'from its settings report' | 'you said so';
  /** The kit version that will have it again. */
  from?: string;
  /** This kit can do it, and in the next image it is off: by what, in a sentence. */
  off?: string;
}

/** How the present image is known: its settings report, and what a person says it can do. */
export interface PresentImage {
  reported: readonly DumpValue[];
  ticked: readonly string[];
}

const FEATURES =
  /\.on$|^(display\.(kind|menus|picture|touch)|card\.print|store\.kept|filament\.(sensor|volumetric)|fan\.part|probe\.(repeat|alarm)|stall\.[xy]|sensor\.spare|extruder\.second|accel\.smooth|map\.shim|tilt\.by|driver\.report)$/;

/** Values that a report shows only of an image that has a feature. */
const SHOWS: readonly (readonly [value: RegExp, feature: string])[] = [
  [/^lead\.time/, 'lead.on'],
  [/^touch\./, 'display.touch'],
  [/^nudge\./, 'nudge.on'],
  [/\.second-(e|hotend)\b/, 'extruder.second'],
];

/** What an image may or may not be able to do: what a person is asked of the present one. */
export const features = (kit: Kit): Option[] => kit.options.filter(({ key }) => FEATURES.test(key));

const sentence = (option: Option) => option.without ?? option.for;

/**
 * Everything the present image does and the image that is to come does not: by the kit it was built from where
 * that changes, from its settings report, and by what a person says. In the kit's order; nothing twice.
 */
export function takenAway(before: Facts, after: Facts, { reported, ticked }: PresentImage): TakenAway[] {
  const reads = new Set(readNow(after.kit).map(({ key }) => key));
  const coming = derive(after);
  /** A feature that is known to this kit and off in the settings of the next image. */
  const isOff = (key: string) => reads.has(key) && FEATURES.test(key) && !isOn(coming, key);
  const found = new Map<string, TakenAway>();
  const whyOff = (key: string) => {
    const setting = coming.get(key);
    return setting?.source === 'derived'
      ? `It is off in the next image by what is known of the machine: ${setting.because}.`
      : 'It is off in the settings of the next image; there it can be switched on.';
  };
  const lose = (option: Option, known: TakenAway['known']) => {
    const from = optionOf(after.kit, option.key)?.from;
    const off = isOff(option.key);
    if ((reads.has(option.key) && !off) || found.has(option.key)) return;
    found.set(option.key, {
      key: option.key,
      label: option.label,
      lost: sentence(option),
      known,
      ...(from && { from }),
      ...(off && { off: whyOff(option.key) }),
    });
  };
  if (before.kit !== after.kit) {
    const settings = derive(before);
    for (const option of readNow(before.kit)) if (isOn(settings, option.key)) lose(option, 'by its kit');
  }
  for (const option of after.kit.options) if (ticked.includes(option.key)) lose(option, 'you said so');
  for (const value of reported) {
    const option = optionOf(after.kit, value.key);
    if (option) {
      // What is switched off, or nothing, was not used.
      const had = inUnitOf(option, value) ?? value.value;
      if (had === false || had === 0) continue;
      lose(option, 'from its settings report');
      const shown = SHOWS.find(([looks]) => looks.test(option.key))?.[1];
      const feature = shown === undefined ? undefined : optionOf(after.kit, shown);
      if (feature) lose(feature, 'from its settings report');
    } else if (value.value !== 0 && !found.has(value.key))
      found.set(value.key, {
        key: value.key,
        label: value.name ?? value.key,
        lost: `It is set to ${value.value}${value.unit && ` ${value.unit}`}; ${after.kit.name} has no such setting.`,
        known: 'from its settings report',
      });
  }
  return [...found.values()];
}
