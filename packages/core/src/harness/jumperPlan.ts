import { howTold } from '../parts/howTold';
import type { Jumper, JumperPosition } from '../board/jumper';
import { type Facts, socketOf } from '../machine/facts';
import { fitsVoltage } from '../circuit/loads';
import { supplyVolts } from '../board/board';
import { placedLeads } from '../circuit/pinTable';

/** Where a jumper belongs for a harness. */
export interface JumperWish {
  jumper: Jumper;
  position: JumperPosition;
  because: string;
  /** Where it was seen to sit, if somebody looked. */
  seen?: JumperPosition;
}

/** The position of every jumper that this harness makes a difference to, in the board's order. */
export function jumperPlan(facts: Facts): JumperWish[] {
  const seenAt = facts.machine.jumpers ?? {};
  return (facts.board.jumpers ?? []).flatMap((jumper) => {
    const wish = WISHES[jumper.sets](facts, jumper);
    if (!wish) return [];
    const seen = jumper.positions.find(({ id }) => id === seenAt[jumper.id]);
    return [{ jumper, ...wish, ...(seen && { seen }) }];
  });
}

type Wish = Omit<JumperWish, 'jumper' | 'seen'> | undefined;
const WISHES: Record<Jumper['sets'], (facts: Facts, jumper: Jumper) => Wish> = {
  'usb power': (_facts, jumper) =>
    at(jumper, ({ power }) => power === 'supply', 'motors, heaters and servos need the real supply'),
  'driver mode': (facts, jumper) => {
    const driver = facts.parts.find((part) => part.type.kind === 'driver' && socketOf(part) === jumper.of);
    if (driver?.type.kind !== 'driver') return undefined;
    const { type } = driver;
    return at(jumper, (position) => position.mode === type.mode, howTold(type));
  },
  'stall line': (facts, jumper) => {
    const driver = facts.parts.find((part) => part.type.kind === 'driver' && socketOf(part) === jumper.of);
    if (driver?.type.kind !== 'driver' || !driver.type.stall) return undefined;
    const axis = facts.parts.find((part) => part.type.kind === 'motor' && socketOf(part) === jumper.of)?.role;
    if (axis !== undefined && facts.machine.settings[`stall.${axis}`]?.value === true)
      return at(jumper, ({ stall }) => stall === 'tied', `${axis.toUpperCase()} homes by stalling`);
    const user = jumper.of === undefined ? undefined : stalledInput(facts, jumper.of);
    return at(
      jumper,
      ({ stall }) => stall === 'parted',
      user ? `${user} uses the same input` : `${driver.type.name} would pull an input nobody reads`,
    );
  },
  'fan voltage': (facts, jumper) => {
    const lead = placedLeads(facts).find(
      (entry) => entry.role === 'supply' && entry.contact.startsWith(`${jumper.of}.`),
    );
    const wants = lead?.part.type.supply_v;
    if (!lead || wants === undefined) return undefined;
    return at(
      jumper,
      ({ gives }) =>
        gives !== undefined && fitsVoltage(supplyVolts(gives, facts.machine.supply.volts_v), wants),
      `${lead.part.id} wants ${wants} V`,
    );
  },
};

function at(jumper: Jumper, test: (position: JumperPosition) => boolean, because: string): Wish {
  const position = jumper.positions.find(test);
  return position && { position, because };
}

/** The part that reads the input a socket's stall output is tied to. */
export function stalledInput(facts: Facts, socketId: string): string | undefined {
  const pin = facts.board.sockets.find(({ id }) => id === socketId)?.stall;
  if (pin === undefined) return undefined;
  return placedLeads(facts).find(({ net, role }) => role === 'signal' && 'pin' in net && net.pin === pin)
    ?.part.id;
}
