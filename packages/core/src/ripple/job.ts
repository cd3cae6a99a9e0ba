import Joi from 'joi';
import { line, lines } from '../text/plainText';
import type { Catalogue } from '../catalogue/catalogue';
import { type Machine, machineSchema } from '../machine/machine';
import { resolve } from '../machine/facts';
import { pathInWords } from '../machine/pathInWords';
import { mergeThreeWay } from '../tree/mergeThreeWay';
import type { Path } from '../tree/path';
import { sameValue } from '../tree/sameValue';
import { type Change, changeSchema } from './change';
import { applyChange, inWorkingOrder } from './changes';
import type { Reason } from './advice';
import { REASONS } from './advice';
import { CONSEQUENCE_KINDS, type Consequence, type ConsequenceKind } from './consequence';

/** A step of the survey itself is done, too; it asks for nothing to be put back. */
export type DoneKind = ConsequenceKind | 'survey';

/** A consequence that was carried out by hand. It is kept as it was, so that it can be put back. */
export interface Done {
  id: string;
  kind: DoneKind;
  subject: string;
  title: string;
  from?: string;
  to?: string;
  at: string;
}

/**
 * What a user means to do to a machine. While it is open the machine file says how the machine will be; `before`
 * keeps how it was.
 */
export interface Job {
  jolly: 'job/1';
  title: string;
  reason: Reason;
  /** Why it was started although the advice was to leave the machine alone. */
  overruled?: string;
  before: Machine;
  changes: Change[];
  /** Ids of the changes the machine file holds already; the others wait for their round. */
  taken: string[];
  done: Done[];
}

const changeList = () => Joi.array().items(changeSchema).unique('id').max(30);

/** Guards what may be said about a job from outside. */
export const jobSchema = Joi.object<Job>({
  jolly: Joi.valid('job/1').required(),
  title: line(80).required(),
  reason: Joi.valid(...Object.keys(REASONS)).required(),
  overruled: lines(300).min(10),
  before: machineSchema.required(),
  changes: changeList().required(),
  taken: Joi.array().items(line(40)).unique().required(),
  done: Joi.array()
    .items(
      Joi.object<Done>({
        id: line(300).required(),
        kind: Joi.valid(...CONSEQUENCE_KINDS, 'survey').required(),
        subject: line(80).required(),
        title: line(300).required(),
        from: line(300),
        to: line(300),
        at: Joi.string().isoDate().required(),
      }),
    )
    .unique('id')
    .max(500)
    .required(),
});

/** The machine with some of a job's changes made; a change that cannot be made is passed over. */
export function planned(before: Machine, changes: readonly Change[], catalogue: Catalogue): Machine {
  return inWorkingOrder(changes).reduce((machine, change) => {
    const after = applyChange(machine, change, catalogue);
    return 'impossible' in after ? machine : after;
  }, before);
}

export interface Replanned {
  machine: Machine;
  /** Places where the machine file keeps a value that was set there since, against the plan. */
  kept: string[];
  /** What was set by hand for a board that is not planned any more, in words: the plan of the other one stands instead. */
  left: string[];
}

/**
 * The machine file when a job's changes become others: what the plan set follows the plan, what was set by hand
 * or measured since stays, unless it was for another board.
 */
export function replan(
  machine: Machine,
  before: Machine,
  from: readonly Change[],
  to: readonly Change[],
  catalogue: Catalogue,
): Replanned {
  const [was, will] = [planned(before, from, catalogue), planned(before, to, catalogue)];
  const { value, met } = mergeThreeWay(was, machine, will);
  const kept = (paths: readonly Path[]) => paths.map((path) => path.join('.'));
  if (holdsOn(value, machine, catalogue)) return { machine: value, kept: kept(met), left: [] };
  return {
    machine: withBoardOf(will, value),
    kept: kept(met.filter(([first]) => !OF_A_BOARD.some((place) => place === first))),
    left: setByHand(was, machine).map(pathInWords),
  };
}

/** Places of a machine file that mean contacts, jumpers and pins of one board. */
const OF_A_BOARD = ['harness', 'jumpers', 'pins'] as const;

/** Whether what was set by hand can stay: it is the same board, or a revision of it that has all of it. */
function holdsOn(merged: Machine, machine: Machine, catalogue: Catalogue): boolean {
  if (sameValue(merged.board, machine.board)) return true;
  return merged.board.id === machine.board.id && !('problems' in resolve(merged, catalogue));
}

/** A machine wired as another one is planned, with the parts it has itself. */
function withBoardOf({ harness, jumpers, pins }: Machine, machine: Machine): Machine {
  const { jumpers: _jumpers, pins: _pins, ...rest } = machine;
  const has = new Set(machine.parts.map(({ id }) => id));
  return {
    ...rest,
    harness: Object.fromEntries(Object.entries(harness).filter(([part]) => has.has(part))),
    ...(jumpers && { jumpers }),
    ...(pins && { pins }),
  };
}

/** What differs from the plan in landings, jumpers and pins, each as a whole. */
function setByHand(plan: Machine, machine: Machine): Path[] {
  return OF_A_BOARD.flatMap((place) => {
    const [planned, set]: Record<string, unknown>[] = [plan[place] ?? {}, machine[place] ?? {}];
    return Object.keys(set ?? {})
      .filter((key) => !sameValue(planned?.[key], set?.[key]))
      .map((key): Path => [place, key]);
  });
}

/** The changes a job's machine file holds. */
export function takenChanges({ changes, taken }: Pick<Job, 'changes' | 'taken'>): Change[] {
  return changes.filter((change) => taken.includes(change.id));
}

/** Something that was done by hand and that the job does not ask for any more. */
export interface PutBack {
  done: Done;
  title: string;
}

/** Kinds that leave a trace on the machine when they are done. */
const HAND_WORK = new Set<DoneKind>(['lead', 'slicer']);

/** What must be put back after a change was withdrawn from a job that is half done. */
export function toPutBack(done: readonly Done[], consequences: readonly Consequence[]): PutBack[] {
  const wanted = new Set(consequences.map((entry) => entry.id));
  return done
    .filter((entry) => HAND_WORK.has(entry.kind) && !wanted.has(entry.id))
    .map((entry) => ({
      done: entry,
      title:
        entry.kind === 'lead'
          ? `Put ${entry.subject} back: from ${entry.to ?? 'where it is'} to ${entry.from ?? 'where it was'}`
          : `Not wanted any more: ${entry.title}`,
    }));
}
