import { headerOf } from '../board/contacts';
import { driverReference, motorCurrent } from '../electricity/driverReference';
import { type Load, supplyBudget } from '../electricity/supplyBudget';
import { wireCheck } from '../electricity/wireCheck';
import { driverOf, type Facts, partsOf, type PlacedPart } from '../machine/facts';
import { runningCurrent } from '../settings/driverRules';
import { ampsOf, hasAdapter } from './loads';
import { placedLeads } from './pinTable';
import { lengthNeeded } from './reach';
import { supplyAt } from './supplyAt';

/** Everything the supply feeds; see supplyBudget for how each kind draws. */
export function loadsOf(facts: Facts): Load[] {
  return facts.parts.flatMap((part): Load[] => {
    const { type } = part;
    if (type.kind === 'heater')
      return [
        {
          name: part.id,
          kind: type.volts > 60 ? 'mains' : 'resistive',
          watts: type.watts,
          volts: type.volts,
        },
      ];
    if (type.kind === 'motor' && driverOf(facts, part)) {
      const { amps } = motorCurrent.ofChecked({ ratedRms: type.rated_a });
      // Two windings, each with its copper loss; what the motor gives mechanically is small beside it.
      const watts = 2 * amps ** 2 * (type.ohms ?? USUAL_OHMS);
      return [{ name: part.id, kind: 'chopper', watts, volts: amps * (type.ohms ?? USUAL_OHMS) }];
    }
    if (type.draws_a !== undefined && type.supply_v !== undefined)
      return [{ name: part.id, kind: 'electronic', amps: type.draws_a, volts: type.supply_v }];
    return [];
  });
}
/** A winding of a motor of this size, where the part does not say. */
const USUAL_OHMS = 2.4;

/** The supply against everything it feeds. */
export function budgetOf(facts: Facts): ReturnType<typeof supplyBudget> {
  const { volts_v, amps_a } = facts.machine.supply;
  return supplyBudget.ofChecked({ supplyV: volts_v, supplyA: amps_a, loads: loadsOf(facts) });
}

/** What a header gives to the parts at it, against what it may give. */
export interface HeaderLoad {
  header: string;
  parts: string[];
  amps: number;
  max_a: number;
}

/** Every header that feeds something, in the order of the parts. */
export function headerLoads(facts: Facts): HeaderLoad[] {
  const loads = new Map<string, HeaderLoad>();
  for (const { part, role, contact } of placedLeads(facts)) {
    const header = headerOf(facts.board, contact);
    // An external switch carries the load itself.
    if (role !== 'supply' || header?.max_a === undefined || hasAdapter(part, 'power-switch')) continue;
    const amps = ampsOf(part.type, supplyAt(facts, part.landing) ?? facts.machine.supply.volts_v);
    if (amps === undefined) continue;
    const known = loads.get(header.id) ?? { header: header.id, parts: [], amps: 0, max_a: header.max_a };
    loads.set(header.id, { ...known, parts: [...known.parts, part.id], amps: known.amps + amps });
  }
  return [...loads.values()];
}

/** A lead as a conductor, as far as its cable was measured. */
export interface WireLoad {
  part: string;
  awg: number;
  length_mm: number;
  amps: number;
  check: ReturnType<typeof wireCheck>;
}

export function wireLoads(facts: Facts): WireLoad[] {
  return facts.parts.flatMap((part) => {
    const cable = facts.machine.cables?.[part.id];
    const volts = supplyAt(facts, part.landing);
    const amps = volts === undefined ? undefined : ampsOf(part.type, volts);
    if (cable?.awg === undefined || cable.length_mm === undefined || amps === undefined) return [];
    const check = wireCheck.ofChecked({
      awg: cable.awg,
      lengthM: cable.length_mm / 1000,
      amps,
      volts: volts!,
    });
    return [{ part: part.id, awg: cable.awg, length_mm: cable.length_mm, amps, check }];
  });
}

/** A lead that is shorter than its place asks for. */
export interface ShortLead {
  part: string;
  length_mm: number;
  needed_mm: number;
}

export function shortLeads(facts: Facts): ShortLead[] {
  return facts.parts.flatMap(({ id, landing }) => {
    const cable = facts.machine.cables?.[id];
    if (!landing || !('leads' in landing) || cable?.length_mm === undefined) return [];
    const needed = lengthNeeded(facts.board, landing, cable.route_mm, facts.machine.bay);
    return needed !== undefined && cable.length_mm < needed
      ? [{ part: id, length_mm: cable.length_mm, needed_mm: Math.ceil(needed) }]
      : [];
  });
}

/** How a driver is told its current: by a voltage at its pot, or over its line. */
export interface DriverCurrent {
  driver: string;
  motors: string[];
  /** A rms for all its motors together. */
  amps: number;
  by: 'pot' | 'line';
  /** Volts at the pot; undefined where the sense resistor is unknown or the line sets it. */
  volts?: number;
}

export function driverCurrents(facts: Facts): DriverCurrent[] {
  const motors = partsOf(facts, 'motor');
  return partsOf(facts, 'driver').flatMap((driver) => {
    const own = motors.filter((motor) => driverOf(facts, motor as PlacedPart)?.id === driver.id);
    if (own.length === 0) return [];
    const { amps } = runningCurrent(driver, own);
    const { mode, volts_per_amp } = driver.type;
    const volts =
      mode === 'stand-alone' && volts_per_amp !== undefined
        ? driverReference.ofChecked({ currentRms: amps, voltsPerAmpRms: volts_per_amp }).volts
        : undefined;
    return [
      {
        driver: driver.id,
        motors: own.map(({ id }) => id),
        amps,
        by: mode === 'stand-alone' ? ('pot' as const) : ('line' as const),
        ...(volts !== undefined && { volts }),
      },
    ];
  });
}
