import type { Catalogue } from '../catalogue/catalogue';
import { type Facts, resolve } from '../machine/facts';
import type { Landing, Machine } from '../machine/machine';
import { sameValue } from '../machine/sameValue';
import type { PartKind } from '../parts/part';
import { applyChange } from '../ripple/changes';
import type { Change } from '../ripple/change';
import { budgetOf } from './electricity';
import { findHarness } from './findHarness';
import { jumperPlan } from './jumperPlan';
import { type RankedLanding, rankLandings } from './rankLandings';
import { caseOf } from './wiringCase';

/** Something a user may want to add, and the change that does it. */
export interface Wish {
  id: string;
  title: string;
  kind: PartKind;
  /** Roles it may have; the first that the machine has no part of this kind for is taken. */
  roles: readonly string[];
  /** Id of the part that is added in a role. */
  adds: (role: string) => string;
  /** The change with role and part chosen, and a place where one is. */
  change: (role: string, part: string, landing: Landing | undefined) => Change;
}

const at = (landing: Landing | undefined) => (landing ? { landing } : {});
export const WISHES: readonly Wish[] = [
  { id: 'servo', title: 'A servo', kind: 'servo', roles: ['flap', 'wiper', 'lid'], adds: (role) => `${role}-servo`, change: (role, part, landing) => ({ id: `add-${role}-servo`, kind: 'servo', role, part, ...at(landing) }) },
  { id: 'filament-sensor', title: 'A filament sensor', kind: 'filament-sensor', roles: ['filament'], adds: () => 'filament-sensor', change: (_role, part, landing) => ({ id: 'add-filament-sensor', kind: 'filament-sensor', part, ...at(landing) }) },
  { id: 'lamp', title: 'A lamp', kind: 'lamp', roles: ['lamp'], adds: () => 'lamp', change: (_role, part, landing) => ({ id: 'add-lamp', kind: 'lamp', part, ...at(landing) }) },
  { id: 'thermistor', title: 'A thermistor', kind: 'thermistor', roles: ['chamber', 'board', 'room'], adds: (role) => `${role}-sensor`, change: (role, part, landing) => ({ id: `add-${role}-sensor`, kind: 'extra-thermistor', role, part, ...at(landing) }) },
  { id: 'second-z', title: 'A second Z motor', kind: 'motor', roles: ['z'], adds: () => 'z-motor-2', change: (_role, part, landing) => ({ id: 'add-second-z', kind: 'dual-z', part, ...(landing && 'socket' in landing && { socket: landing.socket }) }) },
  { id: 'fan', title: 'A fan', kind: 'fan', roles: ['board', 'hotend', 'part'], adds: (role) => `${role}-fan`, change: (role, part, landing) => ({ id: `add-${role}-fan`, kind: 'fan', role, part, ...at(landing) }) },
  { id: 'display', title: 'A display', kind: 'display', roles: ['panel'], adds: () => 'display', change: (_role, part, landing) => ({ id: 'add-display', kind: 'display', part, ...at(landing) }) },
]; // prettier-ignore

/** The role a wish would have on a machine; undefined when it has one in every role. */
export function roleFor(facts: Facts, wish: Wish): string | undefined {
  return wish.roles.find((role) => !facts.parts.some((part) => part.id === wish.adds(role)));
}

/** Where a wished part could go, and what else it brings. */
export interface Addition {
  /** The machine has it already, or it cannot be added; why. */
  impossible?: string;
  /** What it would be there for. */
  role?: string;
  places: RankedLanding[];
  /** Cheapest when other leads may move too, where that beats every free place. */
  withMoves?: { landing: Landing; price: number; moves: { part: string; to: Landing }[] };
  /** What else must change or is lost. */
  also: string[];
}

/** Every place a wished part could go on a machine, each with its price, and what comes with it. */
export function addition(facts: Facts, wish: Wish, part: string, catalogue: Catalogue): Addition {
  const none = (impossible: string): Addition => ({ impossible, places: [], also: [] });
  const role = roleFor(facts, wish);
  if (role === undefined) return none(`It has one already: ${wish.adds(wish.roles[0]!)}.`);
  const id = wish.adds(role);
  const machine = applyChange(facts.machine, wish.change(role, part, undefined), catalogue);
  if ('impossible' in machine) return none(machine.impossible);
  const after = resolve(machine, catalogue);
  if ('problems' in after) return none(after.problems[0]!.message);
  if (wish.kind === 'motor') return { role, ...secondMotor(facts, after.facts, id) };
  const wiring = caseOf(after.facts, facts);
  const places = rankLandings(wiring, machine.harness, id);
  const free = places.find(({ clashes }) => clashes.length === 0);
  const whole = findHarness(wiring);
  const there = whole.harness[id];
  const moves = Object.entries(whole.harness).flatMap(([other, to]) =>
    other !== id && !sameValue(facts.machine.harness[other], to) ? [{ part: other, to }] : [],
  );
  const unit = whole.placed.find((entry) => entry.id === id);
  const better =
    there && moves.length > 0 && (!free || whole.price < free.price)
      ? { landing: there, price: whole.price, moves }
      : undefined;
  return {
    role,
    places,
    ...(better && unit && { withMoves: better }),
    also: alsoNeeded(facts, after.facts, id),
  };
}

function secondMotor(before: Facts, after: Facts, id: string): Addition {
  const first =
    before.machine.harness[
      before.parts.find(({ type, role }) => type.kind === 'motor' && role === 'z')?.id ?? ''
    ];
  const used = new Set(
    Object.values(before.machine.harness).flatMap((landing) => ('socket' in landing ? [landing.socket] : [])),
  );
  const places: RankedLanding[] = [
    ...(first && 'socket' in first
      ? [{ landing: { socket: first.socket }, price: 0, clashes: [], lines: [] }]
      : []),
    ...before.board.sockets
      .filter(({ id: socket }) => !used.has(socket))
      .map(({ id: socket }) => ({
        landing: { socket },
        price: 0,
        clashes: [],
        lines: [],
      })),
  ];
  return {
    places,
    also: [
      'On the first motor’s driver the two share its current: the driver must carry both.',
      'On a driver place of its own it needs a driver module of its own, and a level bed to start with.',
      ...alsoNeeded(before, after, id),
    ],
  };
}

function alsoNeeded(before: Facts, after: Facts, id: string): string[] {
  const { kit } = after;
  const kind = after.parts.find((part) => part.id === id)?.type.kind;
  const servos = (machine: Machine) => machine.parts.filter((part) => part.id.includes('servo')).length;
  const [was, is] = [budgetOf(before), budgetOf(after)];
  const jumpers = jumperPlan(after).filter(
    ({ jumper, position }) =>
      jumperPlan(before).find((wished) => wished.jumper === jumper)?.position !== position,
  );
  const knows = kit.options.some((option) => option.part === kind);
  return [
    ...(kind === 'servo'
      ? [
          `Servos: ${servos(before.machine)} become ${servos(after.machine)}. The count and one delay for each must be set together.`,
          'All parts on one timer share its frequency; places on a timer at another frequency are marked.',
        ]
      : []),
    ...jumpers.map(({ jumper, position }) => `Jumper ${jumper.id}: ${position.means}.`),
    ...(is.peakA > was.peakA
      ? [
          `The supply gives ${is.peakA.toFixed(1)} A at most instead of ${was.peakA.toFixed(1)} A, of ${after.machine.supply.amps_a} A: ${is.verdict}.`,
        ]
      : []),
    ...(kind && !knows ? [`${kit.name} ${kit.version} has no use for it yet; it can be wired now.`] : []),
  ];
}
