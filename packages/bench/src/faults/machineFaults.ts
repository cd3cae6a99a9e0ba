import { picksSupply } from '@jolly/core/board/picksSupply';
import { parseContact } from '@jolly/core/circuit/leadOrder';
import { partFor, partsOf } from '@jolly/core/machine/facts';
import type { PartKind } from '@jolly/core/parts/part';
import type { Live } from '../plant/live';
import type { Fault } from './fault';

const first = ({ facts }: Live, kind: PartKind, role?: string): string | undefined =>
  facts.parts.find((part) => part.type.kind === kind && (role === undefined || part.role === role))?.id;

/** Does something to a part, where the machine has it. */
const withPart =
  (kind: PartKind, role: string | undefined, act: (live: Live, id: string) => void) =>
  (live: Live): void => {
    const id = first(live, kind, role);
    if (id !== undefined) act(live, id);
  };

function exchangeLeads(live: Live, id: string, one: 'signal' | 'supply', other: 'ground' | 'control'): void {
  const leads = { ...live.leads.get(id) };
  const [a, b] = [leads[one], leads[other]];
  if (a !== undefined && b !== undefined) live.leads.set(id, { ...leads, [one]: b, [other]: a });
}

function exchangeParts(live: Live, one: string | undefined, other: string | undefined): void {
  if (one === undefined || other === undefined) return;
  const [a, b] = [live.leads.get(one), live.leads.get(other)];
  if (a && b) {
    live.leads.set(one, b);
    live.leads.set(other, a);
  }
}

/** Every lead of a part one contact further along its header. */
function shiftLeads(live: Live, id: string): void {
  const shifted = Object.entries(live.leads.get(id) ?? {}).map(([role, contact]) => {
    const { header, number } = parseContact(contact);
    return [role, `${header}.${number + 1}`];
  });
  // The roles are those it had.
  live.leads.set(id, Object.fromEntries(shifted) as Record<string, string>);
}

function otherThermistor(live: Live, id: string): void {
  const now = live.thermistors.get(id);
  const other = live.facts.catalogue.parts.find(
    (part) => part.kind === 'thermistor' && part.r25 !== now?.r25,
  );
  if (other?.kind === 'thermistor') live.thermistors.set(id, other);
}

/** Faults in the machine itself. Where a machine lacks the part, there is nothing to be wrong. */
export const MACHINE_FAULTS: readonly Fault[] = [
  {
    name: 'probe-leads-swapped',
    what: "the probe's signal and ground are exchanged",
    symptom: 'the probe reads the same whatever it does, and homing Z refuses or rams',
    found: 'the proof of the probe in mid-air',
    inMachine: withPart('probe', undefined, (live, id) => exchangeLeads(live, id, 'signal', 'ground')),
  },
  {
    name: 'ground-loose',
    what: 'the ground of the first sensor with electronics, or of the X switch, is loose',
    symptom: 'the input floats or reads as open',
    found: 'the proof that a switch reads both ways',
    inMachine: (live) => {
      const id = first(live, 'probe') ?? first(live, 'switch', 'x');
      if (id !== undefined) live.leads.set(id, { ...live.leads.get(id), ground: '' });
    },
  },
  {
    name: 'endstop-other-contact',
    what: 'the X switch is of the other kind: open where closed was expected',
    symptom: 'it reads as met when it is free',
    found: 'the proof that the X switch reads both ways; homing says that it stays met',
    inMachine: withPart('switch', 'x', (live, id) => live.otherContact.add(id)),
  },
  {
    name: 'pull-up-missing',
    what: "the board lacks the resistor at the X switch's port",
    symptom: 'the switch reads by chance while it is open',
    found: "reading the switch several times; the chip's own pull-up helps",
    inMachine: (live) => {
      const contact = live.leads.get(first(live, 'switch', 'x') ?? '')?.signal;
      const header = contact?.split('.')[0];
      const pins = live.facts.board.headers
        .find(({ id }) => id === header)
        ?.contacts.flatMap((net) => /^sig:p(\d+)$/.exec(net)?.[1] ?? []);
      live.pullUps = live.pullUps.filter(({ pin }) => !pins?.includes(String(pin)));
    },
  },
  {
    name: 'thermistor-other-type',
    what: 'the hot end has a thermistor of another type than was set',
    symptom: 'it reads wrong: a little in the cold, much in the heat',
    found: 'boiling water, or a reading beside a known one',
    inMachine: withPart('thermistor', 'hotend', otherThermistor),
  },
  {
    name: 'sensor-open',
    what: "a wire of the hot end's sensor is broken",
    symptom: 'it stops at once: sensor open or too cold',
    found: 'measuring ohms at the plug',
    inMachine: withPart('thermistor', 'hotend', (live, id) => live.broken.set(id, 'open')),
  },
  {
    name: 'sensor-short',
    what: "the hot end's sensor wires touch",
    symptom: 'it stops at once: too hot or sensor shorted',
    found: 'measuring ohms at the plug',
    inMachine: withPart('thermistor', 'hotend', (live, id) => live.broken.set(id, 'short')),
  },
  {
    name: 'sensor-slipped',
    what: "the hot end's sensor hangs beside its block",
    symptom: 'it hardly warms; the guard stops the heater',
    found: 'looking; the guard names the body',
    inMachine: withPart('thermistor', 'hotend', (live, id) => live.slipped.add(id)),
  },
  {
    name: 'heater-fan-exchanged',
    what: 'hot-end heater and part fan are on the place of each other',
    symptom: 'the fan turns when heat is asked for, and nothing warms',
    found: 'the first heat: the guard stops it',
    inMachine: (live) => exchangeParts(live, first(live, 'heater', 'hotend'), first(live, 'fan', 'part')),
  },
  {
    name: 'heaters-exchanged',
    what: 'the leads of hot-end and bed heater are exchanged',
    symptom: 'the other body warms, and nothing the one that was asked for',
    found: 'the proof of each heater alone',
    inMachine: (live) => exchangeParts(live, first(live, 'heater', 'hotend'), first(live, 'heater', 'bed')),
  },
  {
    name: 'sensors-exchanged',
    what: 'the plugs of hot-end and bed sensor are exchanged',
    symptom: 'each shows the temperature of the other',
    found: 'warming each sensor by hand',
    inMachine: (live) =>
      exchangeParts(live, first(live, 'thermistor', 'hotend'), first(live, 'thermistor', 'bed')),
  },
  {
    name: 'coil-crossed',
    what: 'the two windings of the X motor are mixed up',
    symptom: 'it hums and does not turn',
    found: 'the first nudge of X',
    inMachine: withPart('motor', 'x', (live, id) => {
      live.deadMotors.add(id);
      live.crossedMotors.add(id);
    }),
  },
  {
    name: 'motor-dead',
    what: 'the Y motor gets no current',
    symptom: 'it can be turned by hand, and Y does not move',
    found: 'the first nudge of Y',
    inMachine: withPart('motor', 'y', (live, id) => live.deadMotors.add(id)),
  },
  {
    name: 'direction-reversed',
    what: "the X motor's plug is the other way round",
    symptom: 'X runs away from its switch into the frame',
    found: 'the first nudge of X, before homing',
    inMachine: withPart('motor', 'x', (live, id) => live.turnedMotors.add(id)),
  },
  {
    name: 'current-low',
    what: 'the X driver gives far too little current',
    symptom: 'X loses steps when it speeds up',
    found: 'the place after fast moves; measuring the reference',
    inMachine: (live) => void live.motorAmps.set('x', 0.1),
  },
  {
    name: 'current-high',
    what: 'the X driver gives far too much current',
    symptom: 'after a minute it shuts down for a while, and X stands',
    found: 'a finger near the driver; its report',
    inMachine: (live) => {
      const driver = partFor(live.facts, 'driver', 'x');
      if (driver) live.motorAmps.set('x', driver.type.max_a * 1.5);
    },
  },
  {
    name: 'driver-reversed',
    what: 'the X driver module sits the wrong way round in its socket',
    symptom: 'it is dead, and hot',
    found: 'looking at it before power comes on',
    inMachine: withPart('driver', 'x', (live, id) => live.deadDrivers.add(id)),
  },
  {
    name: 'belt-slips',
    what: 'the X belt slips teeth when it pulls hard',
    symptom: 'layers shift after fast moves',
    found: 'the place after fast moves, beside the count of steps',
    inMachine: (live) => void live.slippingBelts.add('x'),
  },
  {
    name: 'probe-not-stowing',
    what: "the probe's pin does not go back in",
    symptom: 'it hangs out and meets the plate on the way',
    found: 'looking after M402',
    inMachine: withPart('probe', undefined, (live, id) => live.neverStows.add(id)),
  },
  {
    name: 'probe-not-triggering',
    what: 'the probe never says that it is met',
    symptom: 'the nozzle is rammed into the plate, then homing stops everything',
    found: 'the proof of the probe in mid-air',
    inMachine: withPart('probe', undefined, (live, id) => live.neverTriggers.add(id)),
  },
  {
    name: 'probe-scatters',
    what: 'the mount of the probe is loose: it triggers now earlier and now later',
    symptom: 'heights differ from touch to touch by a tenth of a millimetre',
    found: 'judging the probe at Calibrate',
    inMachine: withPart('probe', undefined, (live, id) => live.scatters.add(id)),
  },
  {
    name: 'sensor-jumps',
    what: "a wire of the hot end's sensor has a loose contact",
    symptom: 'its temperature jumps by some degrees from one second to the next',
    found: 'tuning its PID at Calibrate: what jumps is not tuned',
    inMachine: withPart('thermistor', 'hotend', (live, id) => live.jumps.add(id)),
  },
  {
    name: 'heater-stuck-on',
    what: "the hot end's switching element conducts always",
    symptom: 'it warms without being asked, until it is stopped as too hot; only the supply ends it',
    found: 'the temperature rises with a target of 0',
    inMachine: withPart('heater', 'hotend', (live, id) => live.stuckOn.add(id)),
  },
  {
    name: 'fan-voltage-wrong',
    what: 'the part fan gets another voltage than it is made for',
    symptom: 'it crawls, or it burns out',
    found: 'reading its label, measuring at its header',
    inMachine: withPart('fan', 'part', (live, id) => {
      const wants = partsOf(live.facts, 'fan').find((fan) => fan.id === id)?.type.supply_v ?? 12;
      live.fanVolts.set(id, wants > 12 ? 12 : 24);
    }),
  },
  {
    name: 'adapter-off-by-one',
    what: 'the plug of the X switch sits one contact too far',
    symptom: 'the switch reads the same whatever it does',
    found: 'the proof that the X switch reads both ways',
    inMachine: withPart('switch', 'x', shiftLeads),
  },
  {
    name: 'jumper-missing',
    what: 'the jumper that feeds the logic is missing',
    symptom: 'the board is dark and silent',
    found: 'its lamp; the table of jumpers',
    inMachine: (live) => void (live.dark = true),
  },
  {
    name: 'cable-out',
    what: 'the USB cable has slipped out; the supply feeds the board',
    symptom: 'nothing is heard of it, and Stop does not reach it; what heats goes on heating',
    found: 'looking; the kit says that nothing is heard',
    inMachine: (live) => void (live.linkOut = true),
  },
  {
    name: 'supply-off',
    what: 'the supply is off: USB alone feeds the logic, where it can',
    symptom: 'the board answers, and nothing moves, warms or blows; a board that USB does not feed is dark',
    found: 'the proof that X moves the way it is asked; its supply’s lamp',
    inMachine: (live) => {
      if (picksSupply(live.facts.board)) live.supplyOff = true;
      else live.dark = true;
    },
  },
];
