import { supplyVolts } from '../board/board';
import { headerLoads, railLoads } from '../harness/electricity';
import { fitsVoltage, takesVoltage } from '../circuit/loads';
import { pinOf, placedLeads } from '../circuit/pinTable';
import { supplyAt } from '../circuit/supplyAt';
import { type Facts, type PlacedPart, socketOf } from '../machine/facts';
import { isWired, madeForVolts } from '../parts/part';
import type { Check } from './check';
import type { Spoken } from '../finding/finding';

function boardVoltage({ board, machine }: Facts): Spoken[] {
  const { volts_v: volts } = machine.supply;
  if (takesVoltage(board, volts)) return [];
  return [
    {
      subject: { kind: 'fact', id: 'supply' },
      what: `${board.name} does not take ${volts} V.`,
      why:
        volts > Math.max(...board.input_v)
          ? 'Its regulators and drivers burn. Use a supply of the right voltage, or another board.'
          : 'It starts badly or not at all. Use a supply of the right voltage, or another board.',
      evidence: [`${board.name}: ${board.input_v.join(' or ')} V`, `supply: ${volts} V`],
    },
  ];
}

function voltage(facts: Facts): Spoken[] {
  return placedLeads(facts).flatMap((lead) => {
    const wants = madeForVolts(lead.part.type);
    if (lead.role !== 'supply' || wants === undefined || lead.net.kind !== 'supply') return [];
    const gets =
      supplyAt(facts, lead.part.landing) ?? supplyVolts(lead.net.source, facts.machine.supply.volts_v);
    if (fitsVoltage(gets, wants)) return [];
    return [
      {
        subject: { kind: 'part', id: lead.part.id },
        what: `${lead.part.id} is made for ${wants} V and gets ${gets} V.`,
        why:
          gets > wants
            ? 'It burns. Use a part of the right voltage or a converter.'
            : lead.part.type.kind === 'heater'
              ? `It gives ${Math.round(100 * (gets / wants) ** 2)} % of its heat, and may never come to its temperature.`
              : 'It runs weakly or not at all.',
        evidence: [
          `${lead.part.type.name}: ${wants} V`,
          `${lead.contact}: ${lead.net.source}, ${gets} V here`,
        ],
      },
    ];
  });
}

/** Parts on a supply, each with what reaches it there; a heater says its own by its watts. */
const fed = (facts: Facts) =>
  placedLeads(facts).flatMap(({ part, role, contact, net }) => {
    if (role !== 'supply' || net.kind !== 'supply' || part.type.kind === 'heater') return [];
    const gets = supplyAt(facts, part.landing) ?? supplyVolts(net.source, facts.machine.supply.volts_v);
    return [{ part, gets, at: `${contact}: ${net.source}, ${gets} V here` }];
  });

function voltsUnknown(facts: Facts): Spoken[] {
  return fed(facts)
    .filter(({ part }) => part.type.supply_v === undefined)
    .map(({ part: { id, type }, gets, at }) => ({
      subject: { kind: 'part', id },
      what: `How many volts does ${id} take?`,
      why: `It is on ${gets} V: what is made for less burns. Read its label, and say it where ${type.name} is described.`,
      evidence: [`${type.name}: no volts of its own`, at],
    }));
}

/** What nobody said is counted as nothing, and what is counted must not look like all. */
function drawsUnknown(facts: Facts): Spoken[] {
  return fed(facts)
    .filter(({ part }) => part.type.draws_a === undefined)
    .map(({ part: { id, type }, at }) => ({
      subject: { kind: 'part', id },
      what: `How many amperes does ${id} draw?`,
      why: `It is counted as nothing in what the supply, its header and its rail give. Read its label, and say it where ${type.name} is described.`,
      evidence: [`${type.name}: no amperes of its own`, at],
    }));
}

function current(facts: Facts): Spoken[] {
  return (
    headerLoads(facts)
      // A bed that is too much for its output has a check, and a way out, of its own.
      .filter(
        ({ parts, amps, max_a }) =>
          amps > max_a &&
          !facts.parts.some(
            ({ id, type, role }) => parts.includes(id) && type.kind === 'heater' && role === 'bed',
          ),
      )
      .map(({ header, parts, amps, max_a }) => ({
        subject: { kind: 'part', id: parts[0] },
        what: `${parts.join(' and ')} ${parts.length > 1 ? 'draw' : 'draws'} ${amps.toFixed(1)} A from a header that may give ${max_a} A.`,
        why: 'Plug and copper overheat. Use a header for this load, or an external switch.',
        evidence: [
          `${parts.join(', ')}: ${amps.toFixed(2)} A at ${facts.machine.supply.volts_v} V`,
          `${header}: at most ${max_a} A`,
        ],
      }))
  );
}

function railCurrent(facts: Facts): Spoken[] {
  return railLoads(facts)
    .filter(({ amps, max_a }) => amps > max_a)
    .map(({ header: rail, parts, amps, max_a }) => ({
      subject: { kind: 'part', id: parts.at(-1) ?? parts[0] },
      what: `${parts.join(', ')} draw ${amps.toFixed(1)} A from the ${rail} rail, which may give ${max_a} A.`,
      why: 'The regulator sags or shuts off, and the board resets. Give one of them a supply of its own.',
      evidence: [`${facts.board.name}: ${rail} at most ${max_a} A`],
    }));
}

/** Somebody decided every pin of a part by hand: the firmware has them, wherever the leads go. */
function pinsDecided(facts: Facts, part: PlacedPart): boolean {
  const read = part.type.leads.filter(({ needs }) => needs !== undefined);
  return read.length > 0 && read.every(({ role }) => pinOf(facts, part, role) !== undefined);
}

/** Leads of a connected part that have no contact. */
function halfLanded(facts: Facts): Spoken[] {
  return facts.parts.flatMap(({ id, type, landing }) => {
    if (!landing || !('leads' in landing)) return [];
    const missing = type.leads
      .filter(({ role }) => landing.leads[role] === undefined)
      .map(({ role }) => role);
    if (missing.length === 0) return [];
    return [
      {
        subject: { kind: 'part', id },
        what: `${id} has no contact for its ${missing.join(' and ')} lead.`,
        why: `${type.name} needs all of its leads. Give it a place with every one of them.`,
        evidence: [
          `connected: ${Object.entries(landing.leads)
            .map(([role, at]) => `${role} ${at}`)
            .join(', ')}`,
        ],
      },
    ];
  });
}

function unlanded(facts: Facts): Spoken[] {
  return facts.parts
    .filter((part) => part.landing === undefined && part.type.kind !== 'driver' && isWired(part.type))
    .filter((part) => !pinsDecided(facts, part))
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
  { id: 'supply.board', severity: 'stop', run: boardVoltage },
  { id: 'supply.volts-unknown', severity: 'question', run: voltsUnknown },
  { id: 'supply.draws-unknown', severity: 'question', run: drawsUnknown },
  { id: 'supply.voltage', severity: 'stop', run: voltage },
  { id: 'header.current', severity: 'stop', run: current },
  { id: 'rail.current', severity: 'stop', run: railCurrent },
  { id: 'harness.unlanded', severity: 'stop', run: unlanded },
  { id: 'harness.half-landed', severity: 'stop', run: halfLanded },
  { id: 'socket.none-left', severity: 'stop', run: socketless },
];
