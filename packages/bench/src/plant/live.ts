import type { InputCircuit } from '@jolly/core/board/board';
import type { Facts, PlacedPart } from '@jolly/core/machine/facts';
import type { LeadRole } from '@jolly/core/machine/landing';
import type { Spot } from '@jolly/core/plate/heights';
import { partsOf } from '@jolly/core/machine/facts';
import type { ThermistorPart } from '@jolly/core/parts/part';

/**
 * The machine as it really stands on the bench: what the facts say, and whatever was done to it since. A fault changes
 * this and nothing else; what follows from it is worked out anew.
 */
export interface Live {
  readonly facts: Facts;
  /** The contact that each lead of a part really touches. */
  leads: Map<string, Partial<Record<LeadRole, string>>>;
  pullUps: readonly InputCircuit[];
  /** Thermistors by part id: one of another type, or with a broken or crushed wire. */
  thermistors: Map<string, ThermistorPart>;
  broken: Map<string, 'open' | 'short'>;
  /** Those whose wire has a loose contact. */
  jumps: Set<string>;
  /** Sensors that hang in the air beside their body. */
  slipped: Set<string>;
  /** Switches of the other kind. */
  otherContact: Set<string>;
  /** Heaters, by part id, whose switching element conducts always. */
  stuckOn: Set<string>;
  /** A heated body whose heat something else takes away, as a share of its own losses. */
  chilled: Map<string, number>;
  /** A temperature something is held at, by part or body. */
  warmed: Map<string, number>;
  /** Motors by part id. */
  deadMotors: Set<string>;
  /** Of those, the ones whose windings get current and are mixed up. */
  crossedMotors: Set<string>;
  turnedMotors: Set<string>;
  motorAmps: Map<string, number>;
  /** Drivers by part id that give nothing. */
  deadDrivers: Set<string>;
  slippingBelts: Set<string>;
  /** Probes by part id. */
  neverStows: Set<string>;
  neverTriggers: Set<string>;
  /** Those that trigger now a little earlier and now a little later. */
  scatters: Set<string>;
  /** Screws of the plate that hands were at: where they stand and how far up they were turned, mm; by name. */
  screws: Map<string, Spot>;
  /** Volts that a fan really gets, by part id. */
  fanVolts: Map<string, number>;
  /** By part id: pressed by hand, or something held under it. */
  held: Set<string>;
  /** The logic has no supply: a jumper is missing. */
  dark: boolean;
  /** The supply is off, and USB feeds the logic alone. */
  supplyOff: boolean;
  /** The cable to the host is out: neither hears the other. */
  linkOut: boolean;
}

/** The machine as its facts describe it. */
export function liveOf(facts: Facts): Live {
  return {
    facts,
    leads: new Map(facts.parts.map((part) => [part.id, leadsOf(part)])),
    pullUps: facts.board.inputs,
    thermistors: new Map(partsOf(facts, 'thermistor').map(({ id, type }) => [id, type])),
    broken: new Map(),
    jumps: new Set(),
    slipped: new Set(),
    otherContact: new Set(),
    stuckOn: new Set(),
    chilled: new Map(),
    warmed: new Map(),
    deadMotors: new Set(),
    crossedMotors: new Set(),
    turnedMotors: new Set(),
    motorAmps: new Map(),
    deadDrivers: new Set(),
    slippingBelts: new Set(),
    neverStows: new Set(),
    neverTriggers: new Set(),
    scatters: new Set(),
    screws: new Map(),
    fanVolts: new Map(),
    held: new Set(),
    dark: false,
    supplyOff: false,
    linkOut: false,
  };
}

function leadsOf({ landing }: PlacedPart): Partial<Record<LeadRole, string>> {
  return landing && 'leads' in landing ? { ...landing.leads } : {};
}
