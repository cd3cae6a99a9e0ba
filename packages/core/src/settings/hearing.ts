import { optionOf } from '../kit/optionOf';
import { type Facts, type PlacedPart, socketOf } from '../machine/facts';
import { type Hearing, isRead } from '../kit/kit';
import { pinOf, pinTable } from '../circuit/pinTable';
import type { PartKind } from '../parts/part';
import { oncePer } from '../tree/oncePer';

/** What a part is called in a kit's list of what it hears, most telling first. */
function namesOf(facts: Facts, { type, role, landing }: PlacedPart): string[] {
  const kind = type.kind;
  if (kind === 'motor' || kind === 'driver') {
    const first = facts.parts.find((part) => part.type.kind === 'motor' && part.role === role);
    const socket = landing && 'socket' in landing ? landing.socket : undefined;
    const second = first && socket !== undefined && socketOf(first) !== socket;
    if (second) return [`${kind}.second.${role}`, `${kind}.second`];
    return kind === 'driver' ? [`driver.${type.mode}`] : [];
  }
  return [`${kind}.${role}`, kind];
}

/** The entry of the kit's list that is about a part, or about any of its kind. */
export function hearingOf(facts: Facts, part: PlacedPart): Hearing | undefined {
  for (const name of namesOf(facts, part)) {
    const found = facts.kit.hears.find((entry) => entry.part === name);
    if (found) return found;
  }
  return undefined;
}

/** Kinds that an image reads or drives through a pin of their own. */
const BY_PIN: ReadonlySet<PartKind> = new Set(['switch', 'probe', 'thermistor', 'heater', 'relay', 'fan', 'lamp', 'servo', 'filament-sensor']); // prettier-ignore

const inTable = oncePer(
  (facts: Facts): ReadonlySet<string | undefined> =>
    new Set(Object.values(pinTable(facts)).flatMap((rows) => rows.map(({ serves }) => serves?.part))),
);

/** A part whose lead reaches the chip at a pin that no line of the pin table is about: another is read in its place. */
export const passedOver = (facts: Facts, part: PlacedPart): boolean =>
  BY_PIN.has(part.type.kind) &&
  (['signal', 'control'] as const).some((role) => pinOf(facts, part, role) !== undefined) &&
  !inTable(facts).has(part.id);

/** Why the chosen version of the kit leaves a wired part alone, and from which version it will not; undefined when it speaks to it. */
export function unheard(facts: Facts, part: PlacedPart): { without: string; from?: string } | undefined {
  const hearing = hearingOf(facts, part);
  if (!hearing) return undefined;
  const { by, without } = hearing;
  if (by !== undefined && !isRead(facts.kit, by)) {
    const from = optionOf(facts.kit, by)?.from;
    return { without, ...(from && { from }) };
  }
  return passedOver(facts, part) ? { without } : undefined;
}
