import { certain } from '../tree/certain';
import type { Filled } from '../tree/filled';
import { unheard } from '../settings/hearing';
import type { Catalogue } from '../catalogue/catalogue';
import { type Facts, resolve, socketOf } from '../machine/facts';
import type { Landing } from '../machine/landing';
import { sameValue } from '../tree/sameValue';
import type { PartKind } from '../parts/part';
import { applyChange, partBrought } from './changes';
import type { Change } from './change';
import { SPARE } from '../machine/spareSensor';
import { servosOf } from '../machine/servos';
import { budgetOf } from '../harness/electricity';
import { findHarness } from '../harness/findHarness';
import { priceAlone } from '../harness/judged';
import { jumperPlan } from '../harness/jumperPlan';
import { type RankedLanding, rankLandings } from '../harness/rankLandings';
import { socketLandings } from '../harness/landings';
import { type NoPlace, whyNoPlace } from '../harness/whyNoPlace';
import { caseOf, type WiredPart } from '../harness/wiringCase';

/** Something a user may want to add, and the change that does it. */
export interface Wish {
  id: string;
  title: string;
  kind: PartKind;
  /** Roles it may have; the first that the machine has no part of this kind for is taken. */
  roles: Readonly<Filled<string>>;
  /** The change with role and part chosen, and a place where one is. */
  change: (role: string, part: string, landing: Landing | undefined) => Change;
}

const at = (landing: Landing | undefined) => (landing ? { landing } : {});
const sensor = (role: string, title: string): Wish => ({ id: `${role}-thermistor`, title, kind: 'thermistor', roles: [role], change: (_role, part, landing) => ({ id: `add-${role}-sensor`, kind: 'extra-thermistor', role, part, ...at(landing) }) }); // prettier-ignore
const fan = (role: string, title: string): Wish => ({ id: `${role}-fan`, title, kind: 'fan', roles: [role], change: (_role, part, landing) => ({ id: `add-${role}-fan`, kind: 'fan', role, part, ...at(landing) }) }); // prettier-ignore
export const WISHES: Readonly<Filled<Wish>> = [
  { id: 'servo', title: 'A servo', kind: 'servo', roles: ['flap', 'wiper', 'lid'], change: (role, part, landing) => ({ id: `add-${role}-servo`, kind: 'servo', role, part, ...at(landing) }) },
  { id: 'filament-sensor', title: 'A filament sensor', kind: 'filament-sensor', roles: ['filament'], change: (_role, part, landing) => ({ id: 'add-filament-sensor', kind: 'filament-sensor', part, ...at(landing) }) },
  { id: 'lamp', title: 'A lamp', kind: 'lamp', roles: ['lamp'], change: (_role, part, landing) => ({ id: 'add-lamp', kind: 'lamp', part, ...at(landing) }) },
  sensor('chamber', 'A thermistor for the chamber'),
  sensor(SPARE, 'A second thermistor for the hot end'),
  { id: 'second-z', title: 'A second Z motor', kind: 'motor', roles: ['z'], change: (_role, part, landing) => ({ id: 'add-second-z', kind: 'dual-z', part, ...(landing && 'socket' in landing && { socket: landing.socket }) }) },
  fan('board', 'A fan for the board'),
  fan('hotend', 'A fan for the hot end'),
  fan('part', 'A fan for the print'),
  { id: 'display', title: 'A display', kind: 'display', roles: ['panel'], change: (_role, part, landing) => ({ id: 'add-display', kind: 'display', part, ...at(landing) }) },
]; // prettier-ignore

/** Id of the part a wish adds in a role. */
const addedBy = (wish: Wish, role: string, part: string) =>
  certain(partBrought(wish.change(role, part, undefined)), `the part that ${wish.title} brings`);

/** Where a wished part could go, and what else it brings. */
export interface Addition {
  /** The machine has it already, or it cannot be added; why. */
  impossible?: string;
  /** What it would be there for. */
  role?: string;
  places: RankedLanding[];
  /** Why there is none, and what would help. */
  nowhere?: NoPlace;
  /** Cheapest when other leads may move too, where that beats every free place. */
  withMoves?: { landing: Landing; price: number; moves: { part: string; to: Landing }[] };
  /** What else must change or is lost. */
  also: string[];
}

/** Every place a wished part could go on a machine, each with its price, and what comes with it. */
export function addition(facts: Facts, wish: Wish, part: string, catalogue: Catalogue): Addition {
  const none = (impossible: string): Addition => ({ impossible, places: [], also: [] });
  const has = (id: string) => facts.parts.some((entry) => entry.id === id);
  if (wish.kind === 'motor' && has('z-motor-2')) return parted(facts, part, catalogue);
  const role = wish.roles.find((one) => !has(addedBy(wish, one, part)));
  if (role === undefined) return none(`It has one already: ${addedBy(wish, wish.roles[0], part)}.`);
  const id = addedBy(wish, role, part);
  const machine = applyChange(facts.machine, wish.change(role, part, undefined), catalogue);
  if ('impossible' in machine) return none(machine.impossible);
  const after = resolve(machine, catalogue);
  if ('problems' in after) return none(after.problems[0].message);
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
  const nowhere = places.length === 0 ? whyNoPlace(after.facts, id) : undefined;
  return {
    role,
    places,
    ...(nowhere && { nowhere }),
    ...(better && unit && { withMoves: better }),
    also: alsoNeeded(facts, after.facts, id),
  };
}

const FREE = { clashes: [] };

/** Driver places that no module sits in, each weighed like any. */
function freeSockets(facts: Facts, motor: WiredPart): RankedLanding[] {
  const used = new Set(facts.parts.map(socketOf));
  return socketLandings(caseOf(facts), { axis: motor.role, motors: [motor] })
    .filter(({ landing }) => 'socket' in landing && !used.has(landing.socket))
    .map((judged) => ({ landing: judged.landing, price: priceAlone(judged), lines: judged.lines, ...FREE }));
}

const OWN_DRIVER =
  'A driver place of its own brings a module like the first one’s, and each side can be homed by itself once the firmware does it.';

/** Beside the first motor, or in a free driver place. */
function secondMotor(before: Facts, after: Facts, id: string): Addition {
  const motor = certain(
    caseOf(after, before).parts.find((part) => part.id === id),
    id,
  );
  const shared = after.machine.harness[id];
  return {
    places: [
      ...(shared ? [{ landing: shared, price: 0, lines: [], ...FREE }] : []),
      ...freeSockets(after, motor),
    ],
    also: [
      'On the first motor’s driver the two share its current: the driver must carry both.',
      OWN_DRIVER,
      ...alsoNeeded(before, after, id),
    ],
  };
}

/** Two Z motors that share a driver can be parted; two that have one each are as parted as can be. */
function parted(facts: Facts, part: string, catalogue: Catalogue): Addition {
  const second = facts.parts.find(({ id }) => id === 'z-motor-2');
  const first = facts.parts.find(({ type, role }) => type.kind === 'motor' && role === 'z');
  if (!first || !second || socketOf(first) !== socketOf(second))
    return { impossible: 'It has two Z motors, each in a driver place of its own.', places: [], also: [] };
  const places = freeSockets(facts, second);
  const [best] = places;
  const change: Change = {
    id: 'add-second-z',
    kind: 'dual-z',
    part,
    ...(best && 'socket' in best.landing && { socket: best.landing.socket }),
  };
  const machine = applyChange(facts.machine, change, catalogue);
  const after = 'impossible' in machine ? undefined : resolve(machine, catalogue);
  return {
    role: 'z',
    places,
    also: [
      `Its two Z motors share the driver in socket ${socketOf(first)}; in a place of its own the second can be steered apart.`,
      OWN_DRIVER,
      ...(after && 'facts' in after ? alsoNeeded(facts, after.facts, second.id) : []),
    ],
  };
}

function alsoNeeded(before: Facts, after: Facts, id: string): string[] {
  const { kit } = after;
  const added = after.parts.find((part) => part.id === id);
  const kind = added?.type.kind;
  const [was, is] = [budgetOf(before), budgetOf(after)];
  const jumpers = jumperPlan(after).filter(
    ({ jumper, position }) =>
      jumperPlan(before).find((wished) => wished.jumper === jumper)?.position !== position,
  );
  const left = added && unheard(after, added);
  return [
    ...(kind === 'servo'
      ? [
          `Servos: ${servosOf(before).length} become ${servosOf(after).length}, that of a probe included. The count and one time to arrive for each are set together.`,
          'All parts on one timer share its frequency; places on a timer at another frequency are marked.',
        ]
      : []),
    ...jumpers.map(({ jumper, position }) => `Jumper ${jumper.id}: ${position.means}.`),
    ...(is.peakA > was.peakA
      ? [
          `The supply gives ${is.peakA.toFixed(2)} A at most instead of ${was.peakA.toFixed(2)} A, of ${after.machine.supply.amps_a} A: ${is.verdict}.`,
        ]
      : []),
    ...(left ? [`${kit.name} ${kit.version} does nothing with it yet. ${left.without}`] : []),
  ];
}
