import type { PlacedPart } from '@jolly/core/machine/facts';
import type { LeadRole } from '@jolly/core/machine/landing';
import { leadEnd } from './leadEnd';
import type { Live } from './live';
import { type Doing, type PinHold, pinHolds } from './pinHolds';

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

/** How a part is fed, and the pin that switches it, if one does. */
interface Feed extends Fed {
  pin: number | undefined;
  /** The share without a pin, or with a switching element that is stuck. */
  always: number;
}

const NOT_FED: Fed = { volts: 0, share: 0, reversed: false };
const CHIP_PULL_UP_OHMS = 40_000;

/**
 * The wiring as it really is, compiled to what holds each pin. Made anew when a lead or a board part changes; what parts
 * do is asked each time a pin is read.
 */
export function compileCircuit(live: Live, doing: Doing): Circuit {
  const { facts } = live;
  const holds = byPin(pinHolds(live, doing));
  const feeds = new Map(facts.parts.map((part) => [part.id, feedOf(live, part)]));
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
      const end = part && leadEnd(live, part, role);
      return end?.kind === 'pin' || end?.kind === 'switched' ? end.pin : undefined;
    },
  };
}

function byPin(holds: readonly PinHold[]): ReadonlyMap<number, PinHold[]> {
  const found = new Map<number, PinHold[]>();
  for (const hold of holds) found.set(hold.pin, [...(found.get(hold.pin) ?? []), hold]);
  return found;
}

/** What lies across a part's two power leads, and the pin that switches it. */
function feedOf(live: Live, part: PlacedPart): Feed {
  const ends = [leadEnd(live, part, 'supply'), leadEnd(live, part, 'control')] as const;
  const rails = ends.flatMap((end) => (end.kind === 'rail' ? [end.volts] : []));
  const low = ends.find((end) => end.kind === 'switched');
  const [one = 0, other = 0] = rails;
  if (low?.kind === 'switched')
    return { volts: one, share: 0, pin: low.pin, always: 1, reversed: low === ends[0] };
  const always = rails.length === 2 ? 1 : 0;
  const volts = always * Math.abs(one - other);
  return { volts, share: always, pin: undefined, always, reversed: volts > 0 && one < other };
}
