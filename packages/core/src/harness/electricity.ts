import type { Filled } from '../tree/filled';
import { driverReference, motorCurrent } from '../electricity/driverReference';
import { type Load, supplyBudget } from '../electricity/supplyBudget';
import { wireCheck } from '../electricity/wireCheck';
import { driverOf, type Facts, partsOf, type PlacedPart } from '../machine/facts';
import { isRead } from '../kit/kit';
import { isMains } from '../parts/part';
import { runningCurrent } from '../settings/driverRules';
import { accounts } from './harnessModel';
import { ampsOf } from '../circuit/loads';
import { mainHeader } from './purposes';
import { lengthNeeded } from './reach';
import { supplyAt } from '../circuit/supplyAt';
import { caseOf } from './wiringCase';

/** Everything the supply feeds; see supplyBudget for how each kind draws. */
export function loadsOf(facts: Facts): Load[] {
  return facts.parts.flatMap((part): Load[] => {
    const { type } = part;
    if (type.kind === 'heater')
      return [
        {
          name: part.id,
          kind: isMains(type) ? 'mains' : 'resistive',
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
  parts: Filled<string>;
  amps: number;
  max_a: number;
}

/** What headers (`header`) or rails (`rail`) give, out of the one account. */
function loadsFrom(facts: Facts, kind: 'header' | 'rail'): HeaderLoad[] {
  const main = mainHeader(facts)?.id;
  return accounts(caseOf(facts), facts.machine.harness)
    .filter(({ from, max_a }) => from.startsWith(`${kind} `) && Number.isFinite(max_a))
    .map(({ from, ...load }) => ({ header: from.slice(kind.length + 1), ...load }))
    .filter(({ header }) => header !== main);
}

/** Every header that feeds something. An external switch carries the load itself. */
export const headerLoads = (facts: Facts): HeaderLoad[] => loadsFrom(facts, 'header');

/** Every rail of the board that feeds something: 3.3, 5 and 12 V. */
export const railLoads = (facts: Facts): HeaderLoad[] => loadsFrom(facts, 'rail');

/** A lead as a conductor, as far as its cable was measured. */
export interface WireLoad {
  part: string;
  awg: number;
  length_mm: number;
  amps: number;
  check: ReturnType<typeof wireCheck>;
}

/** What each lead carries, as far as its part says. */
const carried = (facts: Facts) =>
  facts.parts.flatMap(({ id, landing, type }) => {
    const volts = supplyAt(facts, landing);
    const amps = volts === undefined ? undefined : ampsOf(type, volts);
    return volts === undefined || amps === undefined
      ? []
      : [{ part: id, volts, amps, cable: facts.machine.cables?.[id] ?? {} }];
  });

export function wireLoads(facts: Facts): WireLoad[] {
  return carried(facts).flatMap(({ part, volts, amps, cable: { awg, length_mm } }) => {
    if (awg === undefined || length_mm === undefined) return [];
    const check = wireCheck.ofChecked({ awg, lengthM: length_mm / 1000, amps, volts });
    return [{ part, awg, length_mm, amps, check }];
  });
}

/** Leads that carry something and whose cable was not measured, so that nobody can judge them; what carries most comes first. */
export const unmeasuredWires = (facts: Facts): { part: string; amps: number }[] =>
  carried(facts)
    .filter(({ cable: { awg, length_mm } }) => awg === undefined || length_mm === undefined)
    .map(({ part, amps }) => ({ part, amps }))
    .sort((one, other) => other.amps - one.amps);

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

/** How a driver is told its current: by a voltage at its pot, or over its line, where the kit speaks on it. */
export interface DriverCurrent {
  driver: string;
  motors: string[];
  /** A rms for all its motors together. */
  amps: number;
  by: 'pot' | 'line' | 'untold';
  /** Volts at the pot; undefined where the sense resistor is unknown or the line sets it. */
  volts?: number;
}

export function driverCurrents(facts: Facts): DriverCurrent[] {
  const motors = partsOf(facts, 'motor');
  const told = isRead(facts.kit, 'driver.line');
  return partsOf(facts, 'driver').flatMap((driver) => {
    // Placed, as it comes from the machine's parts.
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
        by: mode === 'stand-alone' ? ('pot' as const) : told ? ('line' as const) : ('untold' as const),
        ...(volts !== undefined && { volts }),
      },
    ];
  });
}
