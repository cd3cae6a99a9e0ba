import { optionOf } from '../kit/optionOf';
import { type Filled, isFilled } from '../tree/filled';
import { boardBy, chipOf } from '../catalogue/catalogue';
import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { type Catalogue, partById } from '../catalogue/catalogue';
import { type Kit, refusal } from '../kit/kit';
import type { Part, PartKind, PartOf } from '../parts/part';
import type { Landing } from './landing';
import type { Machine, MachinePart } from './machine';
import { type BoardAndChip, withoutBootloader } from '../board/withoutBootloader';
import { ownPinRefusal } from './ownPins';

export interface PlacedPart<P extends Part = Part> extends MachinePart {
  type: P;
  landing?: Landing;
}

/** A machine with every id it names looked up. */
export interface Facts {
  machine: Machine;
  /** As this machine has them: without a bootloader images begin at 0 and have more room. */
  board: Board;
  chip: Chip;
  kit: Kit;
  parts: PlacedPart[];
  catalogue: Catalogue;
}

/** Something a machine file says that does not hold together; `path` leads to it. */
export interface Problem {
  path: string;
  message: string;
}

/** What keeps the facts of a machine from being known. */
export interface Unresolved {
  problems: Filled<Problem>;
}

/** Looks up everything a machine names, and refuses settings outside their option's range. */
export function resolve(machine: Machine, catalogue: Catalogue): { facts: Facts } | Unresolved {
  const board = boardBy(catalogue, machine.board);
  const chip = chipOf(catalogue, board);
  const kit = catalogue.kits.find(
    (entry) => entry.id === machine.kit.id && entry.version === machine.kit.version,
  );
  const problems = [
    ...missing(
      board,
      'board',
      () =>
        `no board "${machine.board.id}" at revision "${machine.board.revision}" in the catalogue; known: ${catalogue.boards.map((b) => `${b.id} ${b.revision}`).join(', ')}`,
    ),
    ...missing(chip ?? !board, 'board', () => `the catalogue has no chip "${board?.chip}"`),
    ...missing(
      kit,
      'kit',
      () =>
        `no kit "${machine.kit.id}" at version "${machine.kit.version}" is installed; known: ${catalogue.kits.map((k) => `${k.id} ${k.version}`).join(', ')}`,
    ),
    ...machine.parts.flatMap((part, index) =>
      missing(
        partById(catalogue, part.part),
        `parts[${index}].part`,
        () => `no part "${part.part}" in the catalogue`,
      ),
    ),
    ...(board ? harnessProblems(machine, board) : []),
    ...(board && chip ? ownProblems(machine, board, chip) : []),
    ...missing(
      machine.board.bootloader !== false || !board || !chip || withoutBootloader({ board, chip }),
      'board.bootloader',
      () => `every route to ${board?.name} goes through its bootloader: it cannot do without`,
    ),
    ...(kit ? settingProblems(machine, kit) : []),
  ];
  if (isFilled(problems)) return { problems };
  const parts = machine.parts.flatMap((part) => {
    const type = partById(catalogue, part.part);
    return type ? [{ ...part, type, landing: machine.harness[part.id] }] : [];
  });
  const has = board && chip && asMachineHas({ board, chip }, machine);
  if (!has || !kit || parts.length < machine.parts.length)
    throw new Error('what is missing was not told as a problem');
  return { facts: { machine, ...has, kit, parts, catalogue } };
}

const asMachineHas = (sold: BoardAndChip, machine: Machine): BoardAndChip =>
  (machine.board.bootloader === false ? withoutBootloader(sold) : undefined) ?? sold;

/** The board and the chip of a machine as they are sold, whatever is wanted of their flash. */
export function asSold({ catalogue, board, chip }: Facts): BoardAndChip {
  const sold = boardBy(catalogue, board);
  return { board: sold ?? board, chip: chipOf(catalogue, board) ?? chip };
}

function missing(found: unknown, path: string, message: () => string): Problem[] {
  return found ? [] : [{ path, message: message() }];
}

function harnessProblems(machine: Machine, board: Board): Problem[] {
  return Object.entries(machine.harness).flatMap(([partId, landing]) => {
    const path = `harness.${partId}`;
    if (!machine.parts.some((part) => part.id === partId))
      return [{ path, message: `the machine has no part "${partId}"` }];
    if ('socket' in landing) {
      if (board.sockets.some((socket) => socket.id === landing.socket)) return [];
      const known = board.sockets.map((socket) => socket.id).join(', ');
      return [{ path, message: `${board.name} has no socket "${landing.socket}"; it has ${known}` }];
    }
    return Object.entries(landing.leads).flatMap(([role, contact]) => {
      const [headerId, number] = contact.split('.');
      const header = board.headers.find((entry) => entry.id === headerId);
      if (!header)
        return [{ path: `${path}.leads.${role}`, message: `${board.name} has no header "${headerId}"` }];
      const within = Number(number) >= 1 && Number(number) <= header.contacts.length;
      return within
        ? []
        : [
            {
              path: `${path}.leads.${role}`,
              message: `header ${headerId} has contacts 1 to ${header.contacts.length}, not ${number}`,
            },
          ];
    });
  });
}

/** Jumper positions and pins that board and chip do not have. */
function ownProblems(machine: Machine, board: Board, chip: Chip): Problem[] {
  return [
    ...Object.entries(machine.jumpers ?? {}).flatMap(([id, position]) => {
      const jumper = (board.jumpers ?? []).find((entry) => entry.id === id);
      if (!jumper) return [{ path: `jumpers.${id}`, message: `${board.name} has no jumper "${id}"` }];
      const known = jumper.positions.map((entry) => entry.id);
      return known.includes(position)
        ? []
        : [{ path: `jumpers.${id}`, message: `${id} sits at ${known.join(' or ')}, not at "${position}"` }];
    }),
    ...Object.entries(machine.pins ?? {}).flatMap(([key, { pin }]) => {
      const message = ownPinRefusal(chip, key, pin);
      return message ? [{ path: `pins.${key}.pin`, message }] : [];
    }),
  ];
}

function settingProblems(machine: Machine, kit: Kit): Problem[] {
  return Object.entries(machine.settings).flatMap(([key, own]) => {
    const option = optionOf(kit, key);
    const message = option ? refusal(option, own.value) : `${kit.name} ${kit.version} has no option "${key}"`;
    return message ? [{ path: `settings.${key}.value`, message }] : [];
  });
}

/** All parts of a kind, in the machine's order. */
export function partsOf<K extends PartKind>(facts: Facts, kind: K): PlacedPart<PartOf<K>>[] {
  return facts.parts.filter((part): part is PlacedPart<PartOf<K>> => part.type.kind === kind);
}

/** The first part of a kind that serves a role. */
export function partFor<K extends PartKind>(
  facts: Facts,
  kind: K,
  role: string,
): PlacedPart<PartOf<K>> | undefined {
  return facts.parts.find(
    (part): part is PlacedPart<PartOf<K>> => part.type.kind === kind && part.role === role,
  );
}

/** What the board switches to heat a body: the heater itself, or the relay that stands before a mains heater. */
export function heatSwitch(facts: Facts, body: string): PlacedPart | undefined {
  return partFor(facts, 'relay', body) ?? partFor(facts, 'heater', body);
}

/** The driver in the socket a motor is plugged to. */
export function driverOf(
  facts: Facts,
  motor: PlacedPart | undefined,
): PlacedPart<PartOf<'driver'>> | undefined {
  const socket = socketOf(motor);
  if (socket === undefined) return undefined;
  return facts.parts.find(
    (part): part is PlacedPart<PartOf<'driver'>> => part.type.kind === 'driver' && socketOf(part) === socket,
  );
}

/** Id of the driver socket a part sits in or is plugged to. */
export function socketOf(part: PlacedPart | undefined): string | undefined {
  return part?.landing && 'socket' in part.landing ? part.landing.socket : undefined;
}
