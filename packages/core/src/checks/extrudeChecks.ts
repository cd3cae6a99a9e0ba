import { aboutSetting, asSet, resetRemedy } from '../finding/settingFinding';
import type { Spoken } from '../finding/finding';
import { type Facts, partFor } from '../machine/facts';
import { numberOf, type Settings } from '../settings/setting';
import { isOn } from '../settings/understands';
import type { Check } from './check';

/** Filament is soft enough to be pushed from about here, °C. */
const SOFT_FROM_C = 140;

function extrudesCold(facts: Facts, settings: Settings): Spoken[] {
  const from = numberOf(settings, 'extrude.from');
  if (!partFor(facts, 'heater', 'hotend') || from >= SOFT_FROM_C) return [];
  return [
    {
      subject: aboutSetting('extrude.from'),
      what:
        from === 0 ? 'Filament may be pushed at any temperature.' : `Filament may be pushed from ${from} °C.`,
      why: 'Pushed against a cold hot end it is ground away, or the motor stalls. Fine for what melts that low.',
      evidence: [asSet(settings, 'extrude.from', '°C'), `usual: ${SOFT_FROM_C} °C and more`],
      remedies: resetRemedy(settings, 'extrude.from'),
    },
  ];
}

function neverExtrudes(facts: Facts, settings: Settings): Spoken[] {
  const [from, most] = [numberOf(settings, 'extrude.from'), numberOf(settings, 'heat.hotend.max')];
  if (!partFor(facts, 'heater', 'hotend') || from <= most) return [];
  return [
    {
      subject: aboutSetting('extrude.from'),
      what: `Filament is fed from ${from} °C, and the hot end may be set to ${most} °C at most.`,
      why: 'It is never hot enough: every feed is refused, and nothing is printed.',
      evidence: [asSet(settings, 'extrude.from', '°C'), asSet(settings, 'heat.hotend.max', '°C')],
      remedies: resetRemedy(settings, 'extrude.from'),
    },
  ];
}

/** Below the temperature of which start G-code and test prints are written, nothing is fed. */
function presetTooCold(facts: Facts, settings: Settings): Spoken[] {
  const [from, preset] = [numberOf(settings, 'extrude.from'), numberOf(settings, 'preset.one.hotend')];
  if (!partFor(facts, 'heater', 'hotend') || preset >= from) return [];
  return [
    {
      subject: aboutSetting('preset.one.hotend'),
      what: `The first preset heats the hot end to ${preset} °C, and filament is fed from ${from} °C.`,
      why: 'Start G-code and test prints are written with it: what they feed is refused, and nothing comes out.',
      evidence: [asSet(settings, 'preset.one.hotend', '°C'), asSet(settings, 'extrude.from', '°C')],
      remedies: [...resetRemedy(settings, 'preset.one.hotend'), ...resetRemedy(settings, 'extrude.from')],
    },
  ];
}

function byVolume(_facts: Facts, settings: Settings): Spoken[] {
  if (!isOn(settings, 'filament.volumetric')) return [];
  return [
    {
      subject: aboutSetting('filament.volumetric'),
      what: 'Filament is asked for by volume: E counts cubic millimetres.',
      why: 'A slicer that counts millimetres of filament prints with less than half of it. Tell yours to give volumes.',
      evidence: [asSet(settings, 'filament.volumetric'), asSet(settings, 'filament.diameter', 'mm')],
      remedies: resetRemedy(settings, 'filament.volumetric'),
    },
  ];
}

/** When filament is fed, and how much. */
export const extrudeChecks: Check[] = [
  { id: 'extrude.never', severity: 'mend', run: neverExtrudes },
  { id: 'extrude.preset', severity: 'mend', run: presetTooCold },
  { id: 'extrude.cold', severity: 'note', run: extrudesCold },
  { id: 'extrude.by-volume', severity: 'note', run: byVolume },
];
