import { optionOf } from '@jolly/core/kit/optionOf';
import type { Finding } from '@jolly/core/finding/finding';
import { SECOND_HOTEND } from '@jolly/core/machine/machine';
import type { PartKind } from '@jolly/core/parts/part';
import type { KnownMachine } from './known';

/** The parts of a machine that settings are found under, in the order they are shown. */
export const PARTS = [
  { id: 'identity', title: 'Name and link' },
  { id: 'frame', title: 'Frame and plate' },
  { id: 'x', title: 'X axis' },
  { id: 'y', title: 'Y axis' },
  { id: 'z', title: 'Z axis' },
  { id: 'e', title: 'Extruder' },
  { id: 'hotend', title: 'Hot end' },
  { id: 'bed', title: 'Bed heater' },
  { id: 'chamber', title: 'Chamber' },
  { id: 'probe', title: 'Probe' },
  { id: 'map', title: 'Bed map' },
  { id: 'fans', title: 'Fans and servos' },
  { id: 'filament', title: 'Filament' },
  { id: 'display', title: 'Display and card' },
] as const;
export type PartId = (typeof PARTS)[number]['id'];

const isPart = (id: string | undefined): id is PartId => PARTS.some((part) => part.id === id);

/** Where a setting is found. */
export function partOfSetting(key: string, { kit }: Pick<KnownMachine, 'kit'>): PartId {
  const part = optionOf(kit, key)?.part;
  return isPart(part) ? part : 'identity';
}

/** Where in the product a setting of a machine is shown. */
export const settingPath = (key: string, known: Pick<KnownMachine, 'kit' | 'machine'>): string =>
  `/machines/${known.machine.id}/settings?part=${partOfSetting(key, known)}&key=${key}`;

const PART_OF_KIND: Partial<Record<PartKind, PartId>> = {
  probe: 'probe',
  fan: 'fans',
  servo: 'fans',
  'filament-sensor': 'filament',
  display: 'display',
};
const PART_OF_FACT: Record<string, PartId> = {
  probe_mount: 'probe',
  bed_map: 'map',
  base: 'identity',
  board: 'identity',
};

/** The part of the machine a finding is about; anything else concerns the frame. */
export function partOfFinding(finding: Finding, workbench: Pick<KnownMachine, 'kit' | 'facts'>): PartId {
  const { kind, id } = finding.subject;
  if (kind === 'setting') return partOfSetting(id, workbench);
  if (kind === 'part') {
    const part = workbench.facts.parts.find((entry) => entry.id === id);
    const byKind = part && PART_OF_KIND[part.type.kind];
    if (byKind) return byKind;
    if (part?.role === SECOND_HOTEND) return 'hotend';
    return isPart(part?.role) ? part.role : 'frame';
  }
  // A missing fact is asked for where it is typed in: `frame.room_mm.x` and `axes.x.pitch_mm` under X.
  const words = id.split('.');
  if (kind === 'fact') return words.findLast(isPart) ?? PART_OF_FACT[words[0] ?? ''] ?? 'frame';
  return kind === 'machine' ? 'identity' : 'frame';
}
