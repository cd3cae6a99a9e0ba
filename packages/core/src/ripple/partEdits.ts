import { boardBy } from '../catalogue/catalogue';
import { bodyCalled } from '../machine/bodyCalled';
import { type Catalogue, partById } from '../catalogue/catalogue';
import { cheapestBefore } from '../harness/lastCases';
import { wiringCase } from '../harness/wiringCase';
import type { Edit } from '../machine/edit';
import { type Landing, missingPlace } from '../machine/landing';
import type { Machine, MachinePart } from '../machine/machine';
import type { PartKind } from '../parts/part';

/** Why a change cannot be made to this machine. */
export interface Impossible {
  impossible: string;
}
export type Edits = Edit[] | Impossible;

export const none = (what: string): Impossible => ({ impossible: `this machine has no ${what}` });

export function partOfKind(
  machine: Machine,
  catalogue: Catalogue,
  kind: PartKind,
  role?: string,
): MachinePart | undefined {
  return machine.parts.find(
    (part) => partById(catalogue, part.part)?.kind === kind && (role === undefined || part.role === role),
  );
}

/** Every part of a kind in a role: the modules of an axis that has two, the motors of two extruders. */
export const partsOfKind = (
  machine: Machine,
  catalogue: Catalogue,
  kind: PartKind,
  role: string,
): MachinePart[] =>
  machine.parts.filter((part) => part.role === role && partById(catalogue, part.part)?.kind === kind);

/** The place of a part in the list; applying edits in order, it stays right while only later ones go. */
export const indexOf = (machine: Machine, part: MachinePart) => machine.parts.indexOf(part);

export function replacePart(
  machine: Machine,
  catalogue: Catalogue,
  kind: PartKind,
  role: string,
  part: string,
): Edits {
  const old = partOfKind(machine, catalogue, kind, role);
  return old
    ? [{ path: ['parts', indexOf(machine, old), 'part'], value: part }]
    : none(`${kind} for the ${bodyCalled(role)}`);
}

/**
 * Replaces the part of this kind and role, or adds it; then lands it where it is told, or on its own header. A place that
 * this board does not have was chosen for another one.
 */
export function putPart(
  machine: Machine,
  catalogue: Catalogue,
  wanted: MachinePart,
  kind: PartKind,
  landing: Landing | undefined,
): Edit[] {
  const old = partOfKind(machine, catalogue, kind, wanted.role);
  const id = old?.id ?? wanted.id;
  const board = boardBy(catalogue, machine.board);
  const told = landing && board && missingPlace(board, landing) === undefined ? landing : undefined;
  const place =
    told ?? (old && sameLeads(catalogue, old.part, wanted.part) ? machine.harness[old.id] : undefined);
  const found = place ?? landingFor(machine, catalogue, { ...wanted, id });
  return [
    old
      ? { path: ['parts', indexOf(machine, old), 'part'], value: wanted.part }
      : { path: ['parts', machine.parts.length], value: wanted },
    { path: ['harness', id], ...(found && { value: found }) },
  ];
}

const sameLeads = (catalogue: Catalogue, a: string, b: string) => {
  const words = (id: string) => {
    const type = partById(catalogue, id);
    return JSON.stringify([type?.supply_v, type?.leads]);
  };
  return words(a) === words(b);
};

/** The free place of least price: mostly the header made for it. */
function landingFor(machine: Machine, catalogue: Catalogue, part: MachinePart): Landing | undefined {
  const board = boardBy(catalogue, machine.board);
  const others = machine.parts.filter((entry) => entry.id !== part.id);
  const wiring = board && wiringCase({ ...machine, parts: [...others, part] }, catalogue, board);
  return wiring && cheapestBefore(wiring, { harness: machine.harness, part: part.id });
}

/** The edits that take a part and its lead out of the file. */
export function removal(machine: Machine, part: MachinePart | undefined): Edit[] {
  return part ? [{ path: ['parts', indexOf(machine, part)] }, { path: ['harness', part.id] }] : [];
}

export function withoutPart(machine: Machine, part: MachinePart | undefined): Machine {
  if (!part) return machine;
  const { [part.id]: _landing, ...harness } = machine.harness;
  return { ...machine, parts: machine.parts.filter((entry) => entry !== part), harness };
}
