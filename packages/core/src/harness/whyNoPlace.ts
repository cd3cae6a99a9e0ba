import { chipOf } from '../catalogue/catalogue';
import { sameBoardType } from '../machine/same';
import { contactsOf } from '../board/contacts';
import { type Board, supplyVolts } from '../board/board';
import { pinGroup } from '../board/chip';
import type { Facts } from '../machine/facts';
import { madeForVolts } from '../parts/part';
import { seatsOf } from './harnessModel';
import { fitsVoltage } from '../circuit/loads';
import { MAIN_SUPPLY } from './purposes';
import { caseOf, type WiredPart, type WiringCase } from './wiringCase';
import { whyUnmeetable } from './whyUnmeetable';

/** Why a part has no place on a board, and what would help. */
export interface NoPlace {
  reasons: string[];
  helps: string[];
}

const MOST_NAMED = 3;

/** Why a part of the machine has no legal place on its board, and what would help; undefined when it has one. */
export function whyNoPlace(facts: Facts, id: string): NoPlace | undefined {
  const wiring = caseOf(facts);
  const seat = seatsOf(wiring).find(({ parts }) => parts.some((part) => part.id === id));
  const part = wiring.parts.find((entry) => entry.id === id);
  if (!seat || !part || seat.all().length > 0) return undefined;
  const nowhere = whyUnmeetable(wiring, [{ id: seat.id, parts: seat.parts, landings: [] }]);
  return {
    reasons: [...nowhere.slice(1), ...noSupply(wiring, part)],
    helps: [...pinsKeptBack(wiring, part), ...otherParts(facts, part), ...otherBoards(facts, part)],
  };
}

const headersOn = ({ board }: WiringCase) =>
  [...contactsOf(board).values()].filter(({ header }) => header.for !== MAIN_SUPPLY);

function noSupply(wiring: WiringCase, { type }: WiredPart): string[] {
  const wants = madeForVolts(type);
  if (wants === undefined || !type.leads.some(({ role }) => role === 'supply')) return [];
  const volts = new Set(
    headersOn(wiring).flatMap(({ net }) =>
      net.kind === 'supply' ? [supplyVolts(net.source, wiring.vin)] : [],
    ),
  );
  if ([...volts].some((gives) => fitsVoltage(gives, wants))) return [];
  const given = [...volts].sort((a, b) => a - b).map((gives) => `${gives} V`);
  return [
    `it wants ${wants} V, and the headers of ${wiring.board.name} give ${given.join(' and ') || 'none'}`,
  ];
}

/** Pins that could serve a lead and that no header brings out. */
function pinsKeptBack(wiring: WiringCase, { type }: WiredPart): string[] {
  const { board, chip } = wiring;
  return type.leads.flatMap(({ needs, role }) => {
    if (!needs || needs === 'sw') return [];
    const use = (board.uses ?? []).find(({ pins }) =>
      pins.some((pin) => pinGroup(chip, pin)?.can.includes(needs)),
    );
    return use
      ? [`the ${role} lead could take the pin of the ${use.by} by an adapter, at its price: ${use.lost}`]
      : [];
  });
}

/** Parts of the same kind that would have a place. */
function otherParts(facts: Facts, part: WiredPart): string[] {
  const fit = facts.catalogue.parts.filter(
    (type) => type.kind === part.type.kind && type.id !== part.type.id && hasPlace(facts, { ...part, type }),
  );
  return fit.length > 0 ? [`there is a place for ${named(fit.map(({ name }) => name))}`] : [];
}

/** Boards that would have a place for it. */
function otherBoards(facts: Facts, part: WiredPart): string[] {
  const fit = facts.catalogue.boards.filter(
    (board) => !sameBoardType(board, facts.board) && hasPlace(facts, part, board),
  );
  const names = [...new Set(fit.map(({ name }) => name))];
  return names.length > 0 ? [`another board has a place for it: ${named(names)}`] : [];
}

const named = (names: string[]) => names.slice(0, MOST_NAMED).join(', ');

function hasPlace(facts: Facts, part: WiredPart, board: Board = facts.board): boolean {
  const chip = chipOf(facts.catalogue, board);
  if (!chip) return false;
  const { before: _before, ...wiring } = caseOf(facts);
  const alone = { ...wiring, board, chip, parts: [part], jumpers: {} };
  return seatsOf(alone).some((seat) => seat.all().length > 0);
}
