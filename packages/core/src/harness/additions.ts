import type { Catalogue } from '../catalogue/catalogue';
import { type Facts, resolve } from '../machine/facts';
import type { Landing, Machine } from '../machine/machine';
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
  /** The change with a part chosen, and a place where one is. */
  change: (part: string, landing: Landing | undefined) => Change;
  /** Id of the part the change adds. */
  adds: string;
}

const placed = (landing: Landing | undefined) => (landing ? { landing } : {});
export const WISHES: readonly Wish[] = [
  { id: 'servo', title: 'A servo', kind: 'servo', adds: 'flap-servo', change: (part, landing) => ({ id: 'add-servo', kind: 'servo', role: 'flap', part, ...placed(landing) }) },
  { id: 'filament-sensor', title: 'A filament sensor', kind: 'filament-sensor', adds: 'filament-sensor', change: (part, landing) => ({ id: 'add-filament-sensor', kind: 'filament-sensor', part, ...placed(landing) }) },
  { id: 'lamp', title: 'A lamp', kind: 'lamp', adds: 'lamp', change: (part, landing) => ({ id: 'add-lamp', kind: 'lamp', part, ...placed(landing) }) },
  { id: 'thermistor', title: 'A chamber thermistor', kind: 'thermistor', adds: 'chamber-sensor', change: (part, landing) => ({ id: 'add-thermistor', kind: 'extra-thermistor', role: 'chamber', part, ...placed(landing) }) },
  { id: 'second-z', title: 'A second Z motor', kind: 'motor', adds: 'z-motor-2', change: (part, landing) => ({ id: 'add-second-z', kind: 'dual-z', part, ...(landing && 'socket' in landing && { socket: landing.socket }) }) },
  { id: 'fan', title: 'A board fan', kind: 'fan', adds: 'board-fan', change: (part, landing) => ({ id: 'add-fan', kind: 'fan', role: 'board', part, ...placed(landing) }) },
  { id: 'display', title: 'A display', kind: 'display', adds: 'display', change: (part, landing) => ({ id: 'add-display', kind: 'display', part, ...placed(landing) }) },
]; // prettier-ignore

/** Where a wished part could go, and what else it brings. */
export interface Addition {
  /** The machine has it already, or it cannot be added; why. */
  impossible?: string;
  places: RankedLanding[];
  /** Cheapest when other leads may move too, where that beats every free place. */
  withMoves?: { landing: Landing; price: number; moves: { part: string; to: Landing }[] };
  /** What else must change or is lost. */
  also: string[];
}

/** Every place a wished part could go on a machine, each with its price, and what comes with it. */
export function addition(facts: Facts, wish: Wish, part: string, catalogue: Catalogue): Addition {
  const none = (impossible: string): Addition => ({ impossible, places: [], also: [] });
  if (facts.parts.some(({ id }) => id === wish.adds)) return none(`It has one already: ${wish.adds}.`);
  const machine = applyChange(facts.machine, wish.change(part, undefined), catalogue);
  if ('impossible' in machine) return none(machine.impossible);
  const after = resolve(machine, catalogue);
  if ('problems' in after) return none(after.problems[0]!.message);
  if (wish.kind === 'motor') return secondMotor(facts, after.facts, wish.adds);
  const wiring = caseOf(after.facts, facts);
  const places = rankLandings(wiring, machine.harness, wish.adds);
  const free = places.find(({ clashes }) => clashes.length === 0);
  const whole = findHarness(wiring);
  const there = whole.harness[wish.adds];
  const moves = Object.entries(whole.harness).flatMap(([id, to]) =>
    id !== wish.adds && JSON.stringify(facts.machine.harness[id]) !== JSON.stringify(to)
      ? [{ part: id, to }]
      : [],
  );
  const unit = whole.placed.find(({ id }) => id === wish.adds);
  const better =
    there && moves.length > 0 && (!free || whole.price < free.price)
      ? { landing: there, price: whole.price, moves }
      : undefined;
  return {
    places,
    ...(better && unit && { withMoves: better }),
    also: alsoNeeded(facts, after.facts, wish),
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
      ...alsoNeeded(before, after, undefined, id),
    ],
  };
}

function alsoNeeded(before: Facts, after: Facts, wish: Wish | undefined, id = wish?.adds): string[] {
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
