import { adapterOf } from '@jolly/core/circuit/loads';
import type { PlacedPart } from '@jolly/core/machine/facts';
import type { Part } from '@jolly/core/parts/part';
import { USUAL_PULL_UP_OHMS } from '@jolly/core/settings/sensorInput';
import { type LeadEnd, leadEnd, leadLanding } from './leadEnd';
import type { Live } from './live';
import { railVolts } from './railVolts';

/** What parts do at this moment, as the circuit asks for it. */
export interface Doing {
  /** A lever's contact is closed. */
  closed(partId: string): boolean;
  /** An electronic sensor pulls or drives its output low. */
  outputLow(partId: string): boolean;
  /** Of a thermistor. */
  ohms(partId: string): number;
  /** A switched output conducts for this share of the time, 0 to 1. */
  duty(pin: number): number;
}

/** Something that holds a pin: a resistor to a rail, as conductance; 0 while it does not. */
export interface PinHold {
  pin: number;
  volts(): number;
  siemens(): number;
}

const CLOSED_OHMS = 0.5;
const OUTPUT_OHMS = 100;
/** Electronics work from this share of the voltage they ask for. */
const ENOUGH = 0.7;

/** What holds the board's pins, by itself and through every part. */
export function pinHolds(live: Live, doing: Doing): PinHold[] {
  return [
    ...live.pullUps.map(({ pin, to_v, pull_up_ohms }) => resistor(pin, to_v, () => 1 / pull_up_ohms)),
    ...live.facts.parts.flatMap((part) => holdsOf(live, doing, part)),
  ];
}

function holdsOf(live: Live, doing: Doing, part: PlacedPart): PinHold[] {
  const { type, id } = part;
  const signal = leadEnd(live, part, 'signal');
  const pulled = addedPullUp(live, part, signal);
  if (type.kind === 'thermistor') {
    const bead = between(live, part, () => 1 / doing.ohms(id));
    return [...bead, ...(pulled ?? assumedPullUp(live, signal))];
  }
  if (isContact(type))
    return [...(pulled ?? []), ...between(live, part, () => (doing.closed(id) ? 1 / CLOSED_OHMS : 0))];
  return [...(pulled ?? []), ...electronic(live, doing, part, signal)];
}

/** A resistor that somebody has put into the lead; undefined without one. */
function addedPullUp(live: Live, part: PlacedPart, signal: LeadEnd): PinHold[] | undefined {
  const landing = leadLanding(part);
  const adapter = landing && adapterOf(landing, 'pull-up');
  if (!adapter) return undefined;
  return signal.kind === 'pin'
    ? [resistor(signal.pin, railVolts(live, adapter.to), () => 1 / adapter.ohms)]
    : [];
}

/** A sensor input of which nobody tells a pull-up has the usual one. */
function assumedPullUp({ facts, pullUps }: Live, signal: LeadEnd): PinHold[] {
  if (signal.kind !== 'pin' || facts.board.inputs.some(({ pin }) => pin === signal.pin)) return [];
  return pullUps.length === 0 ? [] : [resistor(signal.pin, facts.chip.level_v, () => 1 / USUAL_PULL_UP_OHMS)];
}

/** Two leads that something conducts between: whichever touches a pin is held to what the other touches. */
function between(live: Live, part: PlacedPart, siemens: () => number): PinHold[] {
  const [one, other] = [leadEnd(live, part, 'signal'), leadEnd(live, part, 'ground')];
  if (one.kind === 'pin' && other.kind === 'rail') return [resistor(one.pin, other.volts, siemens)];
  if (other.kind === 'pin' && one.kind === 'rail') return [resistor(other.pin, one.volts, siemens)];
  return [];
}

/** An output with electronics behind it: dead without supply and ground. */
function electronic(live: Live, doing: Doing, part: PlacedPart, signal: LeadEnd): PinHold[] {
  const { type } = part;
  const level = live.facts.chip.level_v;
  if (!('output' in type) || type.output === undefined || signal.kind !== 'pin') return [];
  if (!isFed(live, part, type.supply_v ?? level)) return [];
  const low = () => doing.outputLow(part.id);
  if (type.output !== 'driven') return [resistor(signal.pin, 0, () => (low() ? 1 / OUTPUT_OHMS : 0))];
  const high = shared(part, ('output_v' in type ? type.output_v : undefined) ?? level, level);
  return [{ pin: signal.pin, volts: () => (low() ? 0 : high), siemens: () => 1 / OUTPUT_OHMS }];
}

/** It has ground, and its supply if it needs one. */
function isFed(live: Live, part: PlacedPart, wantsV: number): boolean {
  const needs = part.type.leads.some(({ role }) => role === 'supply');
  const [supply, ground] = [leadEnd(live, part, 'supply'), leadEnd(live, part, 'ground')];
  const grounded = ground.kind === 'rail' && ground.volts === 0;
  return grounded && (!needs || (supply.kind === 'rail' && supply.volts >= wantsV * ENOUGH));
}

/** What a divider or shifter in the lead leaves of a level. */
function shared(part: PlacedPart, volts: number, level: number): number {
  const landing = leadLanding(part);
  const divider = landing && adapterOf(landing, 'divider', 'signal');
  if (divider) return (volts * divider.bottom_ohms) / (divider.top_ohms + divider.bottom_ohms);
  return landing && adapterOf(landing, 'shifter', 'signal') ? level : volts;
}

const resistor = (pin: number, volts: number, siemens: () => number): PinHold => ({
  pin,
  volts: () => volts,
  siemens,
});

/** A contact that opens and closes, without electronics. */
const isContact = (type: Part): boolean =>
  (type.kind === 'switch' && type.output === undefined) ||
  (type.kind === 'filament-sensor' && type.output === 'switch') ||
  (type.kind === 'probe' && type.sense === 'nozzle');
