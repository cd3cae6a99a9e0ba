import { takesMode } from '../board/takesMode';
import { fitsVoltage, takesVoltage } from '../circuit/loads';
import { type Facts, partsOf, type PlacedPart, socketOf } from '../machine/facts';
import type { Machine } from '../machine/machine';
import { sameBoardType } from '../machine/same';
import { pathInWords } from '../machine/pathInWords';
import { howTold } from '../parts/howTold';
import { differences } from '../tree/differences';
import type { Path } from '../tree/path';
import type { Change, ChangeKind } from './change';
import { CHANGE_TYPES } from './changes';

/** Changes that do not go together, or one that cannot be made. */
export interface Contradiction {
  id: string;
  /** Ids of the changes. */
  changes: string[];
  what: string;
  why: string;
}

/** Kinds that exclude each other within one job. */
const EITHER_OR: readonly [ChangeKind, ChangeKind, string][] = [
  ['new-board', 'same-board', 'it gets another board, or a copy of the one it has'],
  ['probe-added', 'probe-removed', 'the probe comes or goes'],
  ['probe-removed', 'probe-replugged', 'a probe that goes needs no plug'],
  ['hot-end', 'heater', 'another hot end brings its own heater'],
  ['hot-end', 'thermistor', 'another hot end brings its own thermistor'],
];

/** What a change sets, by place in the machine file. */
export interface Made {
  change: Change;
  sets: Places;
}
/** Places of a machine file by their path in one word, and what each is set to. */
type Places = ReadonlyMap<string, { path: Path; value: string }>;

/** What a change has set, read off the machine before and after it. */
export function madeBy(change: Change, before: Machine, after: Machine): Made {
  // Another board moves every lead; a change that also lands its part is not against it.
  const made = differences(before, after, ([first]) => first === 'harness').filter(
    ({ path: [first] }) => first !== 'harness',
  );
  const sets = new Map(
    made.map(({ path, to }) => [path.join('.'), { path, value: JSON.stringify(to) ?? 'none' }]),
  );
  return { change, sets };
}

/** Two changes that want one thing to become two different things, or that exclude each other. */
export function clashes(made: readonly Made[]): Contradiction[] {
  return pairs(made).flatMap(([one, other]) => {
    const [a, b] = [one.change, other.change];
    const titles = () => `${titleOf(a)} and ${titleOf(b).charAt(0).toLowerCase()}${titleOf(b).slice(1)}`;
    const excluded = excludedBy(a, b);
    const place = excluded ? undefined : setTwice(one.sets, other.sets);
    if (excluded)
      return [
        {
          id: 'either-or',
          changes: [a.id, b.id],
          what: `${titles()} exclude each other.`,
          why: `Either way: ${excluded}.`,
        },
      ];
    return place
      ? [
          {
            id: 'same-thing-twice',
            changes: [a.id, b.id],
            what: `${titles()} both decide the same thing: ${pathInWords(place)}.`,
            why: 'The later one would silently win. Keep one of them.',
          },
        ]
      : [];
  });
}

/** Why two kinds of change exclude each other, if they do. */
function excludedBy(a: Change, b: Change): string | undefined {
  const found = EITHER_OR.find(
    ([one, other]) => (a.kind === one && b.kind === other) || (a.kind === other && b.kind === one),
  );
  return found && !(found[0] === 'hot-end' && otherBody(a, b)) ? found[2] : undefined;
}

const titleOf = (change: Change) => CHANGE_TYPES[change.kind].title;
const bodyOf = (change: Change) => ('body' in change ? change.body : 'hotend');
const otherBody = (a: Change, b: Change) => bodyOf(a) !== bodyOf(b);

function pairs<T>(list: readonly T[]): [T, T][] {
  return list.flatMap((a, index) => list.slice(index + 1).map((b): [T, T] => [a, b]));
}

/** A place in the machine file that both changes set, each to another value. */
function setTwice(one: Places, other: Places): Path | undefined {
  for (const [place, { path, value }] of one) {
    const there = other.get(place);
    if (there && there.value !== value) return path;
  }
  return undefined;
}

interface FactRule {
  id: string;
  kinds: ChangeKind[];
  says: (
    before: Facts,
    after: Facts,
    changes: readonly Change[],
  ) => { what: string; why: string } | undefined;
}

/** Soldered drivers stay with their board: which ones another board has, or gets, is told by a change of its own. */
function driversStay(
  { machine, board: old }: Facts,
  after: Facts,
  changes: readonly Change[],
): ReturnType<FactRule['says']> {
  const { board } = after;
  const told = new Set<string>(changes.flatMap((change) => (change.kind === 'drivers' ? change.axes : [])));
  const open = partsOf(after, 'driver').filter(({ role }) => !told.has(role));
  if (open.length === 0 || sameBoardType(machine.board, after.machine.board)) return undefined;
  const add = `add “${CHANGE_TYPES.drivers.title}” to the job, for ${open.map(({ id }) => id).join(', ')}`;
  if (board.drivers === 'soldered')
    return {
      what: `The drivers of ${board.name} are soldered to it, and nobody said which they are.`,
      why: `Current, direction and microsteps follow from them. Read what is printed on them, and ${add}.`,
    };
  if (old.drivers === 'soldered')
    return {
      what: `The drivers of ${old.name} are soldered, and stay with it.`,
      why: `${board.name} wants modules: ${add}.`,
    };
  return undefined;
}

/** What the machine as it would be cannot hold together. */
const FACT_RULES: readonly FactRule[] = [
  {
    id: 'supply-board',
    kinds: ['supply', 'new-board'],
    says: (_before, { machine, board }) =>
      takesVoltage(board, machine.supply.volts_v)
        ? undefined
        : { what: `${board.name} does not take ${machine.supply.volts_v} V.`, why: `It takes ${board.input_v.join(' or ')} V.` },
  },
  {
    id: 'supply-heater',
    kinds: ['supply', 'heater', 'hot-end'],
    says: (_before, after) => {
      const wrong = partsOf(after, 'heater').find(
        ({ type: { volts } }) =>
          volts <= 60 && volts < after.machine.supply.volts_v && !fitsVoltage(after.machine.supply.volts_v, volts),
      );
      return (
        wrong && {
          what: `${wrong.id} is made for ${wrong.type.volts} V and would get ${after.machine.supply.volts_v} V.`,
          why: `It would draw ${((after.machine.supply.volts_v / wrong.type.volts) ** 2).toFixed(1)} times its power and burn.`,
        }
      );
    },
  },
  {
    id: 'driver-mode',
    kinds: ['drivers', 'new-board'],
    says: (before, after, changes) => {
      // Those of the board before do not come along.
      if (driversStay(before, after, changes)) return undefined;
      const { board } = after;
      /** Its socket, or all of them while it has none on this board yet. */
      const places = (driver: PlacedPart) => {
        const own = board.sockets.filter(({ id }) => id === socketOf(driver));
        return own.length > 0 ? own : board.sockets;
      };
      const wrong = partsOf(after, 'driver').find(
        (driver) => !places(driver).some((socket) => takesMode(socket, driver.type.mode)),
      );
      return (
        wrong && {
          what: `${howTold(wrong.type)}, and ${board.name} has no line for it there.`,
          why: `Without it the driver keeps its power-on current and mode. ${board.drivers === 'soldered' ? 'Look again at what is printed on it.' : 'Take a stand-alone driver.'}`,
        }
      );
    },
  },
  { id: 'drivers-stay', kinds: ['new-board'], says: driversStay },
  {
    id: 'drivers-soldered',
    kinds: ['drivers'],
    says: (before, { board }) =>
      before.board.id === board.id && board.drivers === 'soldered'
        ? { what: `The drivers of ${board.name} are soldered.`, why: 'They cannot be exchanged; another board can.' }
        : undefined,
  },
  {
    id: 'z-unknown',
    kinds: ['probe-removed', 'probe-added', 'switch'],
    says: (_before, after) =>
      partsOf(after, 'probe').length > 0 || partsOf(after, 'switch').some((part) => part.role === 'z')
        ? undefined
        : { what: 'Nothing would find Z.', why: 'Add a Z switch, or keep the probe.' },
  },
  {
    id: 'travel-room',
    kinds: ['frame-size'],
    says: (_before, { machine: { frame } }) => {
      const over = (['x', 'y', 'z'] as const).find(
        (axis) => frame.travel_mm[axis][1] - frame.travel_mm[axis][0] > (frame.room_mm?.[axis] ?? Infinity),
      );
      return over && { what: `The travel of ${over.toUpperCase()} is longer than its room in the frame.`, why: `The frame has ${frame.room_mm?.[over]} mm there.` };
    },
  },
]; // prettier-ignore

/** Contradictions between the changes and the machine they would make. */
export function factClashes(before: Facts, after: Facts, changes: readonly Change[]): Contradiction[] {
  return FACT_RULES.flatMap(({ id, kinds, says }) => {
    const causes = changes.filter((change) => kinds.includes(change.kind)).map((change) => change.id);
    const said = causes.length > 0 ? says(before, after, changes) : undefined;
    return said ? [{ id, changes: causes, ...said }] : [];
  });
}
