import Joi from 'joi';
import type { Catalogue } from '../catalogue/catalogue';
import { resolve } from '../machine/facts';
import { type Machine, machineSchema } from '../machine/machine';
import { pathInWords } from '../machine/pathInWords';
import { mergeThreeWay } from '../tree/mergeThreeWay';
import type { Path } from '../tree/path';
import { sameValue } from '../tree/sameValue';
import type { Change } from './change';
import { applyChange, inWorkingOrder } from './changes';
import { once } from '../tree/once';

/** The machine with some of a job's changes made; a change that cannot be made is passed over. */
export function planned(before: Machine, changes: readonly Change[], catalogue: Catalogue): Machine {
  return inWorkingOrder(changes).reduce((machine, change) => {
    const after = applyChange(machine, change, catalogue);
    return 'impossible' in after ? machine : after;
  }, before);
}

/** Places of a machine file that mean contacts, jumpers and pins of one board. */
const OF_A_BOARD = ['harness', 'jumpers', 'pins'] as const;

/** Landings, jumpers and own pins on one board. */
export type Wired = Partial<Pick<Machine, (typeof OF_A_BOARD)[number]>>;
export const wiredSchema = once(() =>
  Joi.object<Wired>(
    Object.fromEntries(OF_A_BOARD.map((place) => [place, machineSchema().extract(place).optional()])),
  ),
);

export interface Plans {
  /** The machine as it was before the job. */
  before: Machine;
  /** The changes it was planned with, and those it is to be. */
  from: readonly Change[];
  to: readonly Change[];
  /** What was set by hand on boards that were planned before. */
  wired?: Readonly<Record<string, Wired>>;
}
export interface Replanned {
  machine: Machine;
  /** Places where the machine file keeps a value that was set there since, against the plan. */
  kept: string[];
  /** What was set by hand for a board that is not planned any more, in words: the plan of the other one stands instead. */
  left: string[];
  /** The same, to come back with its board. */
  wired: Record<string, Wired>;
}

/**
 * The machine file when a job's changes become others: what the plan set follows the plan, what was set by hand
 * or measured since stays. What was set by hand on another board waits until that one is planned again.
 */
export function replan(
  machine: Machine,
  { before, from, to, wired = {} }: Plans,
  catalogue: Catalogue,
): Replanned {
  const [was, will] = [planned(before, from, catalogue), planned(before, to, catalogue)];
  const { value, met } = mergeThreeWay(was, machine, will);
  const dotted = (paths: readonly Path[]) => paths.map((path) => path.join('.'));
  if (holdsOn(value, machine, catalogue))
    return { machine: value, kept: dotted(met), left: [], wired: { ...wired } };
  const byHand = setByHand(was, machine);
  const { [boardKey(value)]: again = {}, ...others } = wired;
  const back = wiredAs(value, will, again);
  return {
    // A board may have been described anew since.
    machine: 'problems' in resolve(back, catalogue) ? wiredAs(value, will, {}) : back,
    kept: dotted(met.filter(([first]) => !OF_A_BOARD.some((place) => place === first))),
    left: placesOf(byHand).map(pathInWords),
    wired: { ...others, ...(placesOf(byHand).length > 0 && { [boardKey(machine)]: byHand }) },
  };
}

const boardKey = ({ board }: Machine): string => `${board.id} ${board.revision}`;

/** Whether what was set by hand can stay: it is the same board, or a revision of it that has all of it. */
function holdsOn(merged: Machine, machine: Machine, catalogue: Catalogue): boolean {
  if (sameValue(merged.board, machine.board)) return true;
  return merged.board.id === machine.board.id && !('problems' in resolve(merged, catalogue));
}

/** A machine wired as another one is planned, and over it what was set by hand; of parts that it has. */
function wiredAs(machine: Machine, plan: Machine, byHand: Wired): Machine {
  const { jumpers: _jumpers, pins: _pins, ...rest } = machine;
  const has = new Set(machine.parts.map(({ id }) => id));
  const harness = Object.entries({ ...plan.harness, ...byHand.harness }).filter(([part]) => has.has(part));
  const [jumpers, pins] = [
    { ...plan.jumpers, ...byHand.jumpers },
    { ...plan.pins, ...byHand.pins },
  ];
  return {
    ...rest,
    harness: Object.fromEntries(harness),
    ...(Object.keys(jumpers).length > 0 && { jumpers }),
    ...(Object.keys(pins).length > 0 && { pins }),
  };
}

/** Landings, jumpers and pins of a machine that are not as they were planned. */
function setByHand(plan: Machine, machine: Machine): Wired {
  const otherwise = <Value>(planned: Record<string, Value> = {}, set: Record<string, Value> = {}) =>
    Object.fromEntries(Object.entries(set).filter(([key, value]) => !sameValue(planned[key], value)));
  return {
    harness: otherwise(plan.harness, machine.harness),
    jumpers: otherwise(plan.jumpers, machine.jumpers),
    pins: otherwise(plan.pins, machine.pins),
  };
}

const placesOf = (wired: Wired): Path[] =>
  OF_A_BOARD.flatMap((place) => Object.keys(wired[place] ?? {}).map((key): Path => [place, key]));
