import Joi from 'joi';
import { type Change, changeSchema } from '@jolly/core/ripple/change';
import type { Reason } from '@jolly/core/ripple/advice';
import { type Done, type Job, jobSchema } from '@jolly/core/ripple/job';
import { line, lines } from '@jolly/core/text/plainText';
import { endpoint, json } from '../endpoint';
import { storedMachine } from '../machine';
import { id, ofMachine, shortLine, words } from '../params';
import {
  both,
  component,
  count,
  flag,
  known,
  list,
  moment,
  nullable,
  object,
  of,
  oneOf,
  optional,
  text,
  type TypeOf,
} from '../shape';

export const jobState = oneOf('open', 'paused', 'done', 'abandoned');
export type JobState = TypeOf<typeof jobState>;

/** A job as it is kept; the version counts up with every change. */
const storedJob = object({
  id: count,
  state: jobState,
  version: count,
  openedAt: moment,
  job: component('Job', known<Job>('title', 'reason', 'before', 'changes', 'taken', 'done')),
});
export type StoredJob = TypeOf<typeof storedJob>;

const changes = of<Change[]>(() => Joi.array().items(changeSchema()).unique('id').max(30));
const taken = of<string[]>(() => Joi.array().items(line(40)).unique().max(30));

const newJob = object({
  title: shortLine(80),
  reason: of<Reason>(() => jobSchema().extract('reason')),
  overruled: optional(words),
  changes,
  taken,
});
export type NewJob = TypeOf<typeof newJob>;

/** What an open job becomes; `version` is that of the job it was made from. */
const jobToSave = object({
  version: of<number>(() => Joi.number().integer().min(1)),
  title: shortLine(80),
  changes,
  taken,
  done: of<Done[]>(() => jobSchema().extract('done')),
});
export type JobToSave = TypeOf<typeof jobToSave>;

const jobAnswer = object({
  job: storedJob,
  machine: storedMachine,
  /** Places where the machine file keeps what was set there since, against the plan. */
  kept: list(text),
  /** What was set by hand for the board before, in words; the plan of this one stands instead. */
  left: list(text),
});
export type JobAnswer = TypeOf<typeof jobAnswer>;

const jobOfMachine = object({
  job: nullable(storedJob),
  /** The last finished job, while its end can be taken back. */
  finished: nullable(object({ title: text, endedAt: moment })),
});
export type JobOfMachine = TypeOf<typeof jobOfMachine>;

const newState = object({ state: jobState, putBack: flag, because: optional(of<string>(() => lines(300))) });
export type NewState = TypeOf<typeof newState>;

/** Something to be measured again that a finished job left behind; its id is that of the calibration. */
const due = object({ id: text, title: text, because: text, since: moment });
export type Due = TypeOf<typeof due>;
/** With the job that left it. */
export const leftDue = both(due, object({ job: count }));
export type LeftDue = TypeOf<typeof leftDue>;

const FOLLOWING = ['unknown-id', 'impossible', 'stale'] as const;

export const jobs = {
  job: endpoint('get /machines/{id}/job', {
    summary:
      'The open or paused job of a machine, or null; then the finished one whose end can still be taken back',
    params: ofMachine,
    answer: json(jobOfMachine),
  }),
  startJob: endpoint('post /machines/{id}/job', {
    summary: 'Open a job; the machine as it is now becomes its before',
    params: ofMachine,
    body: newJob,
    answer: json(jobAnswer),
    refusals: [...FOLLOWING, 'job-open'],
  }),
  saveJob: endpoint('put /machines/{id}/job', {
    summary:
      'Change an open job: its changes, which of them the machine file holds, and what was done by hand',
    params: ofMachine,
    body: jobToSave,
    answer: json(jobAnswer),
    refusals: FOLLOWING,
  }),
  setJobState: endpoint('post /machines/{id}/job/state', {
    summary: 'Pause, resume, finish or abandon the job',
    params: ofMachine,
    body: newState,
    answer: json(object({ machine: storedMachine, kept: list(text), left: list(text) })),
    refusals: FOLLOWING,
  }),
  reopenJob: endpoint('post /machines/{id}/job/reopen', {
    summary: 'Take the end of the last finished job back',
    params: ofMachine,
    answer: json(object({ job: storedJob })),
    refusals: ['job-open'],
  }),
  dues: endpoint('get /machines/{id}/dues', {
    summary: 'What finished jobs left to be measured',
    params: ofMachine,
    answer: json(list(due)),
  }),
  settleDue: endpoint('post /machines/{id}/dues/{due}/done', {
    summary: 'Something that stayed due is measured',
    params: { id, due: id },
    answer: json(list(due)),
  }),
};
