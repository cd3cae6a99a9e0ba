import { supplyVolts } from '../board/board';
import { headerOf } from '../board/contacts';
import { placedLeads } from '../harness/pinTable';
import { type Facts, socketOf } from '../machine/facts';
import type { Check } from './check';
import type { Spoken } from './finding';

/** A part asks for its voltage within this share; regulators and supplies are never exact. */
const VOLTAGE_SLACK = 0.1;

function voltage(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap((lead) => {
    const wants = lead.part.type.supply_v;
    if (lead.role !== 'supply' || wants === undefined || lead.net.kind !== 'supply') return [];
    const gets = supplyVolts(lead.net.source, facts.machine.supply.volts_v);
    if (Math.abs(gets - wants) <= wants * VOLTAGE_SLACK) return [];
    return [
      {
        subject: { kind: 'part', id: lead.part.id },
        what: `${lead.part.id} is made for ${wants} V and gets ${gets} V.`,
        why:
          gets > wants
            ? 'It burns. Use a part of the right voltage or a converter.'
            : 'It runs weakly or not at all.',
        evidence: [
          `${lead.part.type.name}: ${wants} V`,
          `${lead.contact}: ${lead.net.source}, ${gets} V here`,
        ],
      },
    ];
  });
}

function current(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap(({ part, role, contact }) => {
    const limit = headerOf(facts.board, contact)?.max_a;
    const draws = partAmps(facts, part.type);
    if (role !== 'supply' || limit === undefined || draws === undefined || draws <= limit) return [];
    return [
      {
        subject: { kind: 'part', id: part.id },
        what: `${part.id} draws ${draws.toFixed(1)} A from a header that may give ${limit} A.`,
        why: 'Plug and copper overheat. Use a header for this load, or an external switch.',
        evidence: [
          `${part.type.name}: ${draws.toFixed(2)} A at ${facts.machine.supply.volts_v} V`,
          `${contact}: at most ${limit} A`,
        ],
      },
    ];
  });
}

/** A resistive heater at another voltage draws in proportion; everything else draws what it says. */
function partAmps(facts: Facts, type: Facts['parts'][number]['type']): number | undefined {
  return type.kind === 'heater'
    ? (type.watts / type.volts ** 2) * facts.machine.supply.volts_v
    : type.draws_a;
}

function unlanded(facts: Facts): Spoken[] {
  return facts.parts
    .filter((part) => part.landing === undefined && part.type.kind !== 'driver')
    .map((part) => ({
      subject: { kind: 'part', id: part.id },
      what: `${part.id} is not connected to anything.`,
      why: 'An enabled feature needs it; without a landing the firmware has no pin for it.',
      evidence: [`${part.type.name}, serves ${part.role}`],
    }));
}

function socketless(facts: Facts): Spoken[] {
  const driven = new Set(facts.parts.filter((part) => part.type.kind === 'driver').map(socketOf));
  return facts.parts
    .filter((part) => part.type.kind === 'motor' && part.landing && !driven.has(socketOf(part)))
    .map((part) => ({
      subject: { kind: 'part', id: part.id },
      what: `${part.id} is plugged to socket ${socketOf(part)}, which has no driver.`,
      why: 'A motor needs a driver to turn.',
      evidence: [`socket ${socketOf(part)}: empty`],
    }));
}

export const supplyChecks: Check[] = [
  { id: 'supply.voltage', severity: 'stop', run: voltage },
  { id: 'header.current', severity: 'stop', run: current },
  { id: 'harness.unlanded', severity: 'stop', run: unlanded },
  { id: 'socket.none-left', severity: 'stop', run: socketless },
];
