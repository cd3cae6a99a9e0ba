import { type Facts, type PlacedPart, socketOf } from '../machine/facts';
import { type Hearing, isRead } from '../kit/kit';

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
  // Every image reads the sensors and steers the heaters of hot end and bed.
  const steered = kind === 'heater' || kind === 'thermistor';
  if (steered && (role === 'hotend' || role === 'bed')) return [];
  return [`${kind}.${role}`, kind];
}

/** The entry of the kit's list that is about a part; undefined for what every image steers. */
export function hearingOf(facts: Facts, part: PlacedPart): Hearing | undefined {
  for (const name of namesOf(facts, part)) {
    const found = facts.kit.hears.find((entry) => entry.part === name);
    if (found) return found;
  }
  return undefined;
}

/** Why the chosen version of the kit leaves a wired part alone, and from which version it will not; undefined when it speaks to it. */
export function unheard(facts: Facts, part: PlacedPart): { without: string; from?: string } | undefined {
  const hearing = hearingOf(facts, part);
  if (!hearing || (hearing.by && isRead(facts.kit, hearing.by))) return undefined;
  const from = facts.kit.options.find(({ key }) => key === hearing.by)?.from;
  return { without: hearing.without, ...(from && { from }) };
}
