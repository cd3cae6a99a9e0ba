import type { Landing } from '../machine/machine';
import type { Judged } from './judged';
import { judgeLeads } from './judgeLeads';
import { type Drive, drivesOf, judgeSocket, partsOfDrive } from './judgeSocket';
import { leadLandings, socketLandings } from './landings';
import { MAIN_SUPPLY } from './purposes';
import type { Choice, Placement } from './placement';
import type { WiredPart, WiringCase } from './wiringCase';

/** What is placed together: a driver with its motors, or one part with leads. */
export interface Unit {
  id: string;
  parts: WiredPart[];
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

/** Every unit of a case with its legal landings; a told landing stays where it is, legal or not. */
export function unitsOf(wiring: WiringCase, told: Readonly<Record<string, Landing>> = {}): Unit[] {
  const drives = drivesOf(wiring.parts);
  return [
    ...drives.map((drive) => driveUnit(wiring, drive, told)),
    ...wiring.parts
      .filter((part) => part.type.leads.length > 0)
      .map((part) => {
        const landing = told[part.id];
        return {
          id: part.id,
          parts: [part],
          landings:
            landing && 'leads' in landing ? [judgeLeads(wiring, part, landing)] : leadLandings(wiring, part),
        };
      }),
  ];
}

function driveUnit(wiring: WiringCase, drive: Drive, told: Readonly<Record<string, Landing>>): Unit {
  const parts = partsOfDrive(drive);
  const landing = parts.map(({ id }) => told[id]).find((entry) => entry !== undefined);
  return {
    id: parts[0]!.id,
    parts,
    landings:
      landing && 'socket' in landing
        ? [judgeSocket(wiring, drive, { socket: landing.socket })]
        : socketLandings(wiring, drive),
  };
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

/** Milliamperes a header or rail may give. */
export function limitOf({ board }: Pick<WiringCase, 'board'>, name: string): number {
  const [kind, id] = name.split(' ');
  const amps =
    kind === 'rail'
      ? board.rails?.find(({ source }) => source === id)?.max_a
      : board.headers.find((header) => header.id === id)?.max_a;
  return Math.floor((amps ?? Infinity) * 1000);
}

export const mainHeader = ({ board }: Pick<WiringCase, 'board'>) =>
  board.headers.find((header) => header.for === MAIN_SUPPLY);
