import { boardBy, chipOf } from '../catalogue/catalogue';
import type { Board } from '../board/board';
import type { Chip } from '../board/chip';
import { type Catalogue, partById } from '../catalogue/catalogue';
import type { Facts } from '../machine/facts';
import type { Landing } from '../machine/landing';
import type { Machine } from '../machine/machine';
import type { Part } from '../parts/part';

/** A part that wants a place. */
export interface WiredPart {
  id: string;
  role: string;
  type: Part;
}

/** The board to wire, the parts to place on it, and where their leads are now. */
export interface WiringCase {
  board: Board;
  chip: Chip;
  /** Volts that feed the board. */
  vin: number;
  parts: WiredPart[];
  /** The board and harness the leads come from; the same board when nothing is swapped. */
  before?: { board: Board; harness: Readonly<Record<string, Landing>> };
  cables: NonNullable<Machine['cables']>;
  bay: Machine['bay'];
  jumpers: NonNullable<Machine['jumpers']>;
}

/** The case of wiring a machine's parts to a board, its leads being where its harness says. */
export function wiringCase(machine: Machine, catalogue: Catalogue, board: Board): WiringCase | undefined {
  const chip = chipOf(catalogue, board);
  if (!chip) return undefined;
  const old = boardBy(catalogue, machine.board);
  return {
    board,
    chip,
    vin: machine.supply.volts_v,
    parts: machine.parts.flatMap((part) => {
      const type = partById(catalogue, part.part);
      return type ? [{ id: part.id, role: part.role, type }] : [];
    }),
    ...(old && { before: { board: old, harness: machine.harness } }),
    cables: machine.cables ?? {},
    bay: machine.bay,
    jumpers: old === board ? (machine.jumpers ?? {}) : {},
  };
}

/** The case of a machine on the board it has, its leads coming from another state of it. */
export function caseOf(facts: Facts, before: Facts = facts): WiringCase {
  const { machine, board, chip } = facts;
  return {
    board,
    chip,
    vin: machine.supply.volts_v,
    parts: facts.parts.map(({ id, role, type }) => ({ id, role, type })),
    before: { board: before.board, harness: before.machine.harness },
    cables: machine.cables ?? {},
    bay: machine.bay,
    jumpers: machine.jumpers ?? {},
  };
}
