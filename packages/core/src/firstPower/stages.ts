import { picksSupply } from '../board/picksSupply';
import { type Board, supplyVolts } from '../board/board';
import { parseNet } from '../board/net';
import type { SupplySource } from '../board/net';
import type { Cause } from '../proofs/proof';
import { jumperPlan } from '../harness/jumperPlan';
import type { Facts } from '../machine/facts';
import { partsOf, socketOf } from '../machine/facts';
import { isMains } from '../parts/part';
import type { Bounds } from './metering';
import { type Plugging, pluggingIn } from './plugging';

/** Something to look at or to do, ticked by whoever did. */
export interface Look {
  id: string;
  what: string;
}

/** A rail to measure with the power on, in V. */
export interface RailRow {
  id: string;
  source: SupplySource;
  how: string;
  what: string;
  from: string;
  to: string;
  bounds: Bounds;
  expect: string;
  causes: readonly (Bounds & Cause)[];
}

/** One stage of the first power: what is done, what is measured, and when to stop. */
export interface Stage {
  id: 'before' | 'usb' | 'supply';
  title: string;
  caution: string;
  looks: Look[];
  /** What may be plugged or pulled meanwhile. */
  plugs: Plugging[];
  rails: RailRow[];
  /** When the power goes off at once. */
  stopSigns: string;
}

const STOP_SIGNS =
  'A smell, smoke, a part too hot to touch, a rail too low or too high, a lamp that stays dark: switch off, unplug, and look for the cause before you try again.';
/** Share by which a rail may differ. */
const SHARE: Readonly<Record<SupplySource, number>> = { '3v3': 0.05, '5v': 0.05, '12v': 0.05, vin: 0.05 };

/** The first power of a machine in stages; what a board cannot do is left out. */
export function powerStages(facts: Facts): Stage[] {
  const usb = facts.board.jumpers?.find(({ sets }) => sets === 'usb power');
  return [
    {
      id: 'before', title: 'Before there is power', caution: 'Unplug the supply. A charge can kill a board: touch bare metal of a radiator or tap first.',
      looks: looksBefore(facts), plugs: pluggingIn(facts, 'before'), rails: [], stopSigns: '',
    },
    ...(usb
      ? [{
          id: 'usb' as const, title: 'USB alone', caution: 'Heaters and motors stay without supply. Plug and unplug nothing else while USB is in.',
          looks: [
            { id: 'usb-jumper', what: `${usb.id}: ${usb.positions.find(({ power }) => power === 'usb')?.means ?? 'the logic runs from USB'}.` },
            { id: 'usb-lamp', what: 'USB in: its lamp is lit, nothing smells, nothing grows hot within a minute.' },
          ],
          plugs: pluggingIn(facts, 'usb'),
          rails: rails(facts, 'usb', ['5v', '3v3']),
          stopSigns: STOP_SIGNS,
        }]
      : []),
    {
      id: 'supply', title: 'The supply, motors idle', caution: 'Keep a hand on the supply’s switch. Plug no motor and no driver while there is power.',
      looks: [
        ...(usb ? [{ id: 'supply-jumper', what: `USB out. ${usb.id}: ${usb.positions.find(({ power }) => power === 'supply')?.means ?? 'the logic runs from the supply'}.` }] : []),
        { id: 'supply-lamp', what: 'Supply on for ten seconds, then off: its lamp was lit, no smell, no part too hot to touch.' },
        { id: 'supply-idle', what: 'Supply on again: no motor turns, no fan or heater runs that nobody asked.' },
      ],
      plugs: pluggingIn(facts, 'supply'),
      rails: rails(facts, 'supply', ['vin', '12v', '5v', '3v3']),
      stopSigns: STOP_SIGNS,
    },
  ];
} // prettier-ignore

function looksBefore(facts: Facts): Look[] {
  const { board } = facts;
  const drivers = partsOf(facts, 'driver').filter((part) => socketOf(part) !== undefined);
  const mains = partsOf(facts, 'heater').filter(({ type }) => isMains(type)).map(({ id }) => id); // prettier-ignore
  return [
    ...(board.drivers === 'plugged in'
      ? drivers.map((part) => ({
          id: `module-${part.id}`,
          what: `${part.type.name} of ${part.role.toUpperCase()} in ${socketOf(part)}: its marked corner on the socket’s mark, no pin beside its hole.`,
        }))
      : []),
    ...(board.drivers === 'plugged in' ? [{ id: 'heat-sinks', what: 'Every module has its heat sink, and none touches a pin.' }] : []),
    ...jumperLooks(facts),
    { id: 'selector', what: 'The supply’s selector, where it has one, stands at the volts of your mains.' },
    { id: 'polarity', what: 'Plus of the supply is on plus of the board, minus on minus.' },
    ...(mains.length > 0 ? [{ id: 'mains', what: `Mains wiring of ${mains.join(' and ')} follows local codes; a qualified electrician has done or seen it.` }] : []),
  ];
} // prettier-ignore

/** Where each jumper has to sit for what is plugged there; the one that picks what feeds the logic is told at each stage. */
const jumperLooks = (facts: Facts): Look[] =>
  jumperPlan(facts)
    .filter(({ jumper }) => jumper.sets !== 'usb power')
    .map(({ jumper: { id, under_module: under }, position, because }) => ({
      id: `jumper-${id}`,
      what: `Jumper ${id}${under ? ', below the module' : ''}: ${position.id} (${position.means}); ${because}.`,
    }));

/** Below this nothing feeds a rail, V. */
const NOTHING_V = 0.3;
/** Where what feeds the board comes in, there is no regulator and no jumper before it. */
const causesAtSupply = (volts: number, { least, most }: Bounds): RailRow['causes'] => [
  { least: 0, most: NOTHING_V, cause: 'The supply gives nothing: it is off, a lead of it is out, or its fuse is blown', look: 'Was its lamp lit, where it has one? Power off. Look at its leads and at its fuse; leave what is behind its cover to a qualified electrician.' },
  { least: NOTHING_V, most: least, cause: `It is a supply of less than ${volts} V, or turned down`, look: 'Power off. Read its label.' },
  { least: NOTHING_V, most: least, cause: 'What it feeds pulls it down', look: 'Power off. Measure the supply alone.' },
  { least: most, most: Infinity, cause: `It is a supply of more than ${volts} V, or turned up`, look: 'Power off at once. Read its label; measure the supply alone.' },
]; // prettier-ignore

/** A rail the board makes by itself, out of USB or the supply. */
const causesOfRail = (board: Board, stage: Stage['id'], { least, most }: Bounds): RailRow['causes'] => [
  picksSupply(board)
    ? { least: 0, most: NOTHING_V, cause: 'It gets nothing: a jumper is missing, a fuse is blown', look: 'Power off. Look at the jumper that picks USB or supply, and at the fuses.', at: 'wiring' }
    : { least: 0, most: NOTHING_V, cause: 'It gets nothing: a fuse is blown, or a wire is off', look: 'Power off. Look at the fuses, and at the wires of the supply.', at: 'wiring' },
  { least: NOTHING_V, most: least, cause: 'Something pulls it down', look: 'Power off. Pull the plugs of displays, probes and servos one by one, and measure again.' },
  stage === 'usb'
    ? { least: most, most: Infinity, cause: 'Its regulator is gone', look: 'Pull USB at once. Leave the board out of the machine.' }
    : { least: most, most: Infinity, cause: 'Its regulator is gone, or the supply is turned up', look: 'Power off at once. Measure the supply alone.' },
]; // prettier-ignore

/** Where a rail can be measured: a header that has it beside a ground. */
function rails({ board, machine }: Facts, stage: Stage['id'], sources: readonly SupplySource[]): RailRow[] {
  return sources.flatMap((source): RailRow[] => {
    const header = board.headers.find(({ contacts }) => {
      const nets = contacts.map((net) => parseNet(net));
      return nets.some((net) => net.kind === 'supply' && net.source === source) && nets.some(({ kind }) => kind === 'gnd');
    });
    if (!header) return [];
    const nets = header.contacts.map((net) => parseNet(net));
    const plus = nets.findIndex((net) => net.kind === 'supply' && net.source === source) + 1;
    const minus = nets.findIndex(({ kind }) => kind === 'gnd') + 1;
    const volts = supplyVolts(source, machine.supply.volts_v);
    const share = SHARE[source];
    const bounds = { least: volts * (1 - share), most: volts * (1 + share) };
    return [
      {
        id: `${stage} ${source}`, source, what: source === 'vin' ? 'Supply' : `${volts} V rail`,
        from: `${header.id}.${plus}`, to: `${header.id}.${minus}`, bounds, how: 'red to the first, black to the second',
        expect: `${bounds.least.toFixed(2)} to ${bounds.most.toFixed(2)} V`,
        causes: source === 'vin' ? causesAtSupply(volts, bounds) : causesOfRail(board, stage, bounds),
      },
    ];
  });
} // prettier-ignore
