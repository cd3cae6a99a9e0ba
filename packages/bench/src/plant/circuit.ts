import { contactNet } from '@jolly/core/board/contacts';
import type { InputCircuit } from '@jolly/core/board/board';
import { adapterOf, sourceAt } from '@jolly/core/circuit/loads';
import type { PlacedPart } from '@jolly/core/machine/facts';
import type { LeadLanding, LeadRole } from '@jolly/core/machine/landing';
import type { Part } from '@jolly/core/parts/part';
import { USUAL_PULL_UP_OHMS } from '@jolly/core/settings/sensorInput';
import type { Live } from './live';
import { railVolts } from './railVolts';

/** What a lead really touches. */
export type End =
  | { kind: 'rail'; volts: number }
  | { kind: 'pin'; pin: number }
  /** The low side that a pin switches. */
  | { kind: 'switched'; pin: number }
  | { kind: 'nothing' };

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

/** Volts across a part's supply and switched lead while it is on, and the share of the time it is on. */
export interface Fed {
  volts: number;
  share: number;
  /** Its supply lead is the lower of the two. */
  reversed: boolean;
}

export interface Circuit {
  /** Volts at a pin that is read; undefined where nothing holds it. */
  volts(pin: number, pulledUp: boolean): number | undefined;
  fed(partId: string): Fed;
  /** The pin that a part's lead touches, if it is one. */
  pinAt(partId: string, role: LeadRole): number | undefined;
}

/** Something that holds a pin: a resistor to a rail, as conductance; 0 while it does not. */
interface Hold {
  volts(): number;
  siemens(): number;
}
type HeldPin = Hold & { pin: number };

/** How a part is fed, and the pin that switches it, if one does. */
interface Feed extends Fed {
  pin: number | undefined;
  /** The share without a pin, or with a switching element that is stuck. */
  always: number;
}

const NOT_FED: Fed = { volts: 0, share: 0, reversed: false };
const CLOSED_OHMS = 0.5;
const OUTPUT_OHMS = 100;
const CHIP_PULL_UP_OHMS = 40_000;
const NOTHING: End = { kind: 'nothing' };
/** Electronics work from this share of the voltage they ask for. */
const ENOUGH = 0.7;

/**
 * The wiring as it really is, compiled to what holds each pin. Made anew when a lead or a board part changes; what parts
 * do is asked each time a pin is read.
 */
export function compileCircuit(live: Live, doing: Doing): Circuit {
  const { facts } = live;
  const holds = new Map<number, Hold[]>();
  const hold = (one: HeldPin) => void holds.set(one.pin, [...(holds.get(one.pin) ?? []), one]);

  const endOf = (part: PlacedPart, role: LeadRole): End => {
    const contact = live.leads.get(part.id)?.[role];
    const net = contact === undefined ? undefined : contactNet(facts.board, contact);
    if (contact === undefined || !net) return NOTHING;
    if (net.kind === 'gnd') return { kind: 'rail', volts: 0 };
    if (net.kind === 'sig') return { kind: 'pin', pin: net.pin };
    if (net.kind === 'none' || net.kind === 'unknown') return NOTHING;
    if (net.kind === 'sw') return { kind: 'switched', pin: net.pin };
    const landing = landingOf(part);
    const converter = landing && role === 'supply' && adapterOf(landing, 'converter');
    if (converter) return { kind: 'rail', volts: live.supplyOff ? 0 : converter.volts_v };
    const source = sourceAt(facts.board, contact, facts.machine.jumpers ?? {});
    return { kind: 'rail', volts: source ? railVolts(live, source) : 0 };
  };

  for (const { pin, to_v, pull_up_ohms } of live.pullUps) hold(resistor(pin, to_v, () => 1 / pull_up_ohms));
  for (const part of facts.parts) for (const one of holdsOf(part)) hold(one);

  function holdsOf(part: PlacedPart): HeldPin[] {
    const { type, id } = part;
    const landing = landingOf(part);
    const adapter = landing && adapterOf(landing, 'pull-up');
    const signal = endOf(part, 'signal');
    const pulled =
      adapter && signal.kind === 'pin'
        ? [resistor(signal.pin, railVolts(live, adapter.to), () => 1 / adapter.ohms)]
        : [];
    if (type.kind === 'thermistor')
      return [
        ...between(part, () => 1 / doing.ohms(id)),
        ...(adapter ? pulled : assumedPullUp(signal, live.pullUps)),
      ];
    if (isContact(type)) return [...pulled, ...between(part, () => (doing.closed(id) ? 1 / CLOSED_OHMS : 0))];
    return [...pulled, ...electronic(part, type, signal)];
  }

  /** Two leads that something conducts between: whichever touches a pin is held to what the other touches. */
  function between(part: PlacedPart, siemens: () => number): HeldPin[] {
    const [one, other] = [endOf(part, 'signal'), endOf(part, 'ground')];
    if (one.kind === 'pin' && other.kind === 'rail') return [resistor(one.pin, other.volts, siemens)];
    if (other.kind === 'pin' && one.kind === 'rail') return [resistor(other.pin, one.volts, siemens)];
    return [];
  }

  /** A sensor input of which nobody tells a pull-up has the usual one. */
  function assumedPullUp(signal: End, known: readonly InputCircuit[]): HeldPin[] {
    if (signal.kind !== 'pin' || facts.board.inputs.some(({ pin }) => pin === signal.pin)) return [];
    return known.length === 0 ? [] : [resistor(signal.pin, facts.chip.level_v, () => 1 / USUAL_PULL_UP_OHMS)];
  }

  /** An output with electronics behind it: dead without supply and ground. */
  function electronic(part: PlacedPart, type: Part, signal: End): HeldPin[] {
    if (!('output' in type) || type.output === undefined || signal.kind !== 'pin') return [];
    const needs = type.leads.some(({ role }) => role === 'supply');
    const [supply, ground] = [endOf(part, 'supply'), endOf(part, 'ground')];
    const grounded = ground.kind === 'rail' && ground.volts === 0;
    const wants = type.supply_v ?? facts.chip.level_v;
    const fed = !needs || (supply.kind === 'rail' && supply.volts >= wants * ENOUGH);
    if (!grounded || !fed) return [];
    const low = () => doing.outputLow(part.id);
    if (type.output !== 'driven') return [resistor(signal.pin, 0, () => (low() ? 1 / OUTPUT_OHMS : 0))];
    const high = shared(part, ('output_v' in type ? type.output_v : undefined) ?? facts.chip.level_v);
    return [{ pin: signal.pin, volts: () => (low() ? 0 : high), siemens: () => 1 / OUTPUT_OHMS }];
  }

  /** What a divider or shifter in the lead leaves of a level. */
  function shared(part: PlacedPart, volts: number): number {
    const landing = landingOf(part);
    const divider = landing && adapterOf(landing, 'divider', 'signal');
    if (divider) return (volts * divider.bottom_ohms) / (divider.top_ohms + divider.bottom_ohms);
    return landing && adapterOf(landing, 'shifter', 'signal') ? facts.chip.level_v : volts;
  }

  const feeds = new Map(facts.parts.map((part) => [part.id, feedOf(part)]));

  /** What lies across a part's two power leads, and the pin that switches it. */
  function feedOf(part: PlacedPart): Feed {
    const ends = [endOf(part, 'supply'), endOf(part, 'control')] as const;
    const rails = ends.flatMap((end) => (end.kind === 'rail' ? [end.volts] : []));
    const low = ends.find((end) => end.kind === 'switched');
    const [one = 0, other = 0] = rails;
    if (low?.kind === 'switched')
      return { volts: one, share: 0, pin: low.pin, always: 1, reversed: low === ends[0] };
    const always = rails.length === 2 ? 1 : 0;
    const volts = always * Math.abs(one - other);
    return { volts, share: always, pin: undefined, always, reversed: volts > 0 && one < other };
  }

  return {
    volts(pin, pulledUp) {
      let current = pulledUp ? facts.chip.level_v / CHIP_PULL_UP_OHMS : 0;
      let siemens = pulledUp ? 1 / CHIP_PULL_UP_OHMS : 0;
      const held = holds.get(pin);
      for (let index = 0; held !== undefined && index < held.length; index += 1) {
        const one = held[index];
        if (!one) continue;
        const g = one.siemens();
        siemens += g;
        current += g * one.volts();
      }
      return siemens === 0 ? undefined : current / siemens;
    },
    fed(partId) {
      const feed = feeds.get(partId);
      if (!feed) return NOT_FED;
      feed.share = feed.pin === undefined || live.stuckOn.has(partId) ? feed.always : doing.duty(feed.pin);
      return feed;
    },
    pinAt(partId, role) {
      const part = facts.parts.find(({ id }) => id === partId);
      const end = part ? endOf(part, role) : NOTHING;
      return end.kind === 'pin' || end.kind === 'switched' ? end.pin : undefined;
    },
  };
}

const resistor = (pin: number, volts: number, siemens: () => number): HeldPin => ({
  pin,
  volts: () => volts,
  siemens,
});

const landingOf = ({ landing }: PlacedPart): LeadLanding | undefined =>
  landing && 'leads' in landing ? landing : undefined;

/** A contact that opens and closes, without electronics. */
const isContact = (type: Part): boolean =>
  (type.kind === 'switch' && type.output === undefined) ||
  (type.kind === 'filament-sensor' && type.output === 'switch') ||
  (type.kind === 'probe' && type.sense === 'nozzle');
