import type { Facts } from '../machine/facts';
import { partFor } from '../machine/facts';
import { type Sensed, sensedBodies } from './bodies';
import { MOVED_C, readRise } from './sensors';

export interface SensorTable {
  bodies: readonly string[];
  rows: readonly SensorRow[];
  /** What follows from it, where it decides. */
  says?: string;
}
export interface SensorRow {
  warmed: string;
  /** Contacts its leads are planned on. */
  port: string;
  rises: readonly { body: string; rise: number | undefined; moved: boolean; own: boolean }[];
}

/** What the proofs of the sensors saw: the reading of each body while each sensor was warmed. Nothing before one failed. */
export function sensorTable(
  facts: Facts,
  proofs: readonly { step: string; outcome: string; evidence: readonly string[] }[],
): SensorTable | undefined {
  const sensed = sensedBodies(facts);
  const of = ({ name }: Sensed) => proofs.find(({ step }) => step === `warm-${name}`);
  if (!sensed.some((body) => of(body)?.outcome === 'failed')) return undefined;
  const rows = sensed.map((body): SensorRow => {
    const evidence = of(body)?.evidence ?? [];
    const rises = sensed.map(({ name }) => {
      const rise = evidence.map(readRise).find((read) => read?.body === name)?.rise;
      return { body: name, rise, moved: (rise ?? 0) >= MOVED_C, own: name === body.name };
    });
    return { warmed: body.called, port: portOf(facts, body.name), rises };
  });
  const says = exchanged(rows);
  return { bodies: sensed.map(({ name }) => name), rows, ...(says && { says }) };
}

function portOf(facts: Facts, role: string): string {
  const landing = partFor(facts, 'thermistor', role)?.landing;
  return landing && 'leads' in landing ? Object.values(landing.leads).join(', ') : 'not planned';
}

/** Two sensors that each move the other's reading are exchanged. */
function exchanged(rows: readonly SensorRow[]): string | undefined {
  for (const [index, row] of rows.entries())
    for (const [offset, moved] of row.rises.entries()) {
      const other = rows[offset];
      if (offset <= index || !moved.moved || !other?.rises[index]?.moved) continue;
      return `Warmed, the ${row.warmed} moves the reading of the ${other.warmed}, and the other way round: their plugs are on each other’s port. Supply off, and exchange them.`;
    }
  return undefined;
}
