import { parseNet, type SupplySource } from '@jolly/core/board/net';
import { parseContact } from '@jolly/core/circuit/leadOrder';
import { parallelOhms } from '@jolly/core/electricity/parallelOhms';
import { thermistorOhms } from '@jolly/core/heat/thermistor';
import { type Facts, type PlacedPart, socketOf } from '@jolly/core/machine/facts';
import type { HandAct } from '@jolly/core/bringup/handAct';
import { handsAt } from '../hands/hands';
import { type Live, liveOf } from '../plant/live';
import { railVolts } from '../plant/railVolts';

/** What a meter shows between two contacts, in Ω; Infinity when nothing flows. */
export interface Asked {
  /** A contact (`HEAT-H.1`), a wire of a motor's plug (`M1 a1`), or anything else of the machine's metal. */
  from: string;
  to: string;
  /** The part whose plug is in the hand; missing at a terminal of the board. */
  part?: string;
  /** It is pressed by hand meanwhile. */
  pressed?: boolean;
}

/** A room's temperature on the bench, in °C. */
const ROOM_C = 21;
/** Plus to minus of a dead board. */
const BOARD_OHMS = 4700;
const CLOSED_OHMS = 0.6;
const FAN_OHMS = 3200;
const WINDING_OHMS = 2.5;

/** The machine as hands have left it. */
function liveAfter(facts: Facts, hands: readonly HandAct[]): Live {
  const live = liveOf(facts);
  const at = handsAt(facts);
  for (const act of hands) at.take(act);
  at.apply(live);
  return live;
}

/**
 * What a meter would show on the machine on the bench with the power off: ohms of what really lies between the two
 * contacts, whatever was planned there.
 */
export function benchOhms(
  facts: Facts,
  hands: readonly HandAct[],
  { from, to, part, pressed }: Asked,
): number {
  const live = liveAfter(facts, hands);
  const winding = / ([ab])\d$/.exec(from)?.[1];
  if (winding !== undefined) return windingOhms(facts, live, part);
  const between = facts.parts.find((entry) => {
    const leads = Object.values(live.leads.get(entry.id) ?? {});
    return leads.includes(from) && leads.includes(to);
  });
  if (between) return partOhms(live, between, pressed === true || live.held.has(between.id));
  return isSupplyInput(facts, from) && isSupplyInput(facts, to) ? BOARD_OHMS : Infinity;
}

/** All that conducts at the plug in the hand: motors that share a socket share it. */
function windingOhms(facts: Facts, live: Live, part: string | undefined): number {
  const socket = socketOf(facts.parts.find(({ id }) => id === part));
  if (socket === undefined) return Infinity;
  return parallelOhms(
    facts.parts.flatMap((motor) =>
      motor.type.kind === 'motor' && socketOf(motor) === socket && !live.deadMotors.has(motor.id)
        ? [motor.type.ohms ?? WINDING_OHMS]
        : [],
    ),
  );
}

function partOhms(live: Live, { id, type }: PlacedPart, pressed: boolean): number {
  switch (type.kind) {
    case 'heater':
      return type.volts ** 2 / type.watts;
    case 'thermistor': {
      const wire = live.broken.get(id);
      if (wire) return wire === 'open' ? Infinity : CLOSED_OHMS;
      return thermistorOhms(live.thermistors.get(id) ?? type, live.warmed.get(id) ?? ROOM_C);
    }
    case 'switch': {
      const normallyOpen = (type.contact === 'normally-open') !== live.otherContact.has(id);
      return pressed === normallyOpen ? CLOSED_OHMS : Infinity;
    }
    case 'fan':
      return FAN_OHMS;
    default:
      return Infinity;
  }
}

function isSupplyInput({ board }: Facts, contact: string): boolean {
  const { header, number } = parseContact(contact);
  const net = board.headers.find(({ id }) => id === header)?.contacts[number - 1];
  const kind = net === undefined ? undefined : parseNet(net).kind;
  return kind === 'supply' || kind === 'gnd';
}

/** What a meter would show at a rail of the board on the bench while it has power, in V. */
export function benchVolts(facts: Facts, hands: readonly HandAct[], source: SupplySource): number {
  const live = liveAfter(facts, hands);
  return live.dark && source !== 'vin' ? 0 : railVolts(live, source);
}
