import type { Filled } from '../tree/filled';
import { isFilled } from '../tree/filled';
import type { Landing } from '../machine/landing';
import type { Judged } from './judged';
import { judgeLeads } from './judgeLeads';
import { drivesOf, judgeSocket, partsOfDrive } from './judgeSocket';
import { leadLandings, socketLandings } from './landings';
import type { Choice, Placement } from '../solver/placement';
import type { WiredPart, WiringCase } from './wiringCase';

/** What is placed together, with the ways to weigh its landings: a driver with its motors, or one part with leads. */
interface Seat {
  id: string;
  parts: Filled<WiredPart>;
  /** Every legal landing. */
  all(): Judged[];
  /** One landing, legal or not; undefined where it is a socket for leads or the other way round. */
  at(landing: Landing): Judged | undefined;
}

/** What is placed together, with the landings it may choose from. */
export interface Unit {
  id: string;
  parts: Filled<WiredPart>;
  landings: Judged[];
}

/** A harness as a placement problem, and what its numbers mean. */
export interface HarnessModel {
  placement: Placement;
  units: Unit[];
  /** What each exclusive thing, capacity, timer and loss is, by its number. */
  takes: string[];
  capacities: string[];
  groups: string[];
  losses: { key: string; what: string }[];
}

export function seatsOf(wiring: WiringCase): Seat[] {
  const drives = drivesOf(wiring.parts).flatMap((drive): Seat[] => {
    const parts = partsOfDrive(drive);
    if (!isFilled(parts)) return [];
    return [
      {
        id: parts[0].id,
        parts,
        all: () => socketLandings(wiring, drive),
        at: (landing) =>
          'socket' in landing ? judgeSocket(wiring, drive, { socket: landing.socket }) : undefined,
      },
    ];
  });
  const leads = wiring.parts
    .filter(({ type }) => type.leads.length > 0)
    .map((part): Seat => ({
      id: part.id,
      parts: [part],
      all: () => leadLandings(wiring, part),
      at: (landing) => ('leads' in landing ? judgeLeads(wiring, part, landing) : undefined),
    }));
  return [...drives, ...leads];
}

/** Where a harness has a seat: the landing of the first of its parts that has one. */
export const landingOf = ({ parts }: Pick<Seat, 'parts'>, harness: Readonly<Record<string, Landing>>) =>
  parts.map(({ id }) => harness[id]).find((landing) => landing !== undefined);

/** Every unit of a case with its legal landings; a told landing stays where it is, legal or not. */
export function unitsOf(wiring: WiringCase, told: Readonly<Record<string, Landing>> = {}): Unit[] {
  return seatsOf(wiring).map((seat) => {
    const landing = landingOf(seat, told);
    const judged = landing && seat.at(landing);
    return { id: seat.id, parts: seat.parts, landings: judged ? [judged] : seat.all() };
  });
}

/** Numbers handed out in order of first mention. */
class Numbers {
  readonly names: string[] = [];
  private readonly known = new Map<string, number>();
  of(name: string): number {
    const known = this.known.get(name);
    if (known !== undefined) return known;
    this.known.set(name, this.names.length);
    this.names.push(name);
    return this.names.length - 1;
  }
}

/** Writes units down as a placement problem. */
export function harnessModel(wiring: WiringCase, units: Unit[]): HarnessModel {
  const takes = new Numbers();
  const capacities = new Numbers();
  const groups = new Numbers();
  const losses = new Numbers();
  const lossOf: { key: string; what: string; points: number }[] = [];
  const choiceOf = (judged: Judged): Choice => ({
    price: judged.lines.reduce((sum, { points }) => sum + points, 0),
    takes: judged.takes.map((name) => takes.of(name)),
    ...(judged.draws.length > 0 && {
      draws: joined(judged.draws).map(({ from, ma }) => ({ from: capacities.of(from), amount: ma })),
    }),
    ...(judged.mode && { mode: { group: groups.of(judged.mode.group), is: judged.mode.hz } }),
    ...(judged.losses.length > 0 && {
      loses: judged.losses.map(({ key, what, points }) => {
        const number = losses.of(key);
        lossOf[number] ??= { key, what, points };
        return number;
      }),
    }),
  });
  const items = units.map(({ landings }) => ({ choices: landings.map(choiceOf) }));
  return {
    placement: {
      items,
      capacities: capacities.names.map((name) => limitOf(wiring, name)),
      losses: lossOf.map(({ points }) => points),
    },
    units,
    takes: takes.names,
    capacities: capacities.names,
    groups: groups.names,
    losses: lossOf,
  };
}

/** Draws on one capacity are one number. */
function joined(draws: Judged['draws']): Judged['draws'] {
  const sums = new Map<string, number>();
  for (const { from, ma } of draws) sums.set(from, (sums.get(from) ?? 0) + ma);
  return [...sums].map(([from, ma]) => ({ from, ma }));
}

/** What a header or rail gives to the parts at it, against what it may give. */
export interface Account {
  /** `header FAN-1`, `rail 5v`. */
  from: string;
  parts: Filled<string>;
  amps: number;
  max_a: number;
}

/** The one account of every header and rail, for a harness as it is: what draws on it, and how much it may give. */
export function accounts(wiring: WiringCase, harness: Readonly<Record<string, Landing>>): Account[] {
  const found = new Map<string, Account>();
  for (const seat of seatsOf(wiring)) {
    const landing = landingOf(seat, harness);
    for (const { from, ma } of (landing && seat.at(landing)?.draws) ?? []) {
      const known = found.get(from);
      const { parts, amps } = known ?? { parts: [seat.id] satisfies Filled<string>, amps: 0 };
      found.set(from, {
        from,
        parts: parts.includes(seat.id) ? parts : [...parts, seat.id],
        amps: amps + ma / 1000,
        max_a: limitOf(wiring, from) / 1000,
      });
    }
  }
  return [...found.values()];
}

/** Milliamperes a header or rail may give. */
export function limitOf({ board }: Pick<WiringCase, 'board'>, name: string): number {
  const [kind, id] = name.split(' ');
  const amps =
    kind === 'rail'
      ? board.rails?.find(({ source }) => source === id)?.max_a
      : board.headers.find((header) => header.id === id)?.max_a;
  return Math.floor((amps ?? Infinity) * 1000);
}
