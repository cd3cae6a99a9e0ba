import Joi from 'joi';
import { line, lines } from '../text/plainText';
import { type Machine, machineSchema } from '../machine/machine';
import { type Change, changeSchema } from './change';
import type { Reason } from './advice';
import { REASONS } from './advice';
import { type Wired, wiredSchema } from './replan';
import { CONSEQUENCE_KINDS, type Consequence, type ConsequenceKind } from './consequence';
import { once } from '../tree/once';

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
  /** What was set by hand on boards that were planned before this one; it comes back with its board. */
  wired?: Record<string, Wired>;
}

const changeList = () => Joi.array().items(changeSchema()).unique('id').max(30);

/** Guards what may be said about a job from outside. */
export const jobSchema = once(() =>
  Joi.object<Job>({
    jolly: Joi.valid('job/1').required(),
    title: line(80).required(),
    reason: Joi.valid(...Object.keys(REASONS)).required(),
    overruled: lines(300).min(10),
    before: machineSchema().required(),
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
    wired: Joi.object().pattern(line(80), wiredSchema()).max(20),
  }),
);

/** The changes a job's machine file holds. */
export function takenChanges({ changes, taken }: Pick<Job, 'changes' | 'taken'>): Change[] {
  return changes.filter((change) => taken.includes(change.id));
}

/**
 * What of a kind is so already: it follows from a change that the machine file holds. What only the rest of the job will
 * bring is not due, and not void, before that is taken over; to measure it earlier settles nothing.
 */
export function followsAlready(
  consequences: readonly Consequence[],
  { taken }: Pick<Job, 'taken'>,
  wanted: Consequence['kind'],
): Consequence[] {
  return consequences.filter(
    ({ kind, causes }) => kind === wanted && causes.some((change) => taken.includes(change)),
  );
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
