import Joi from 'joi';
import { type BedMap, bedMapSchema } from '@jolly/core/machine/bedMap';
import { line, lines } from '@jolly/core/text/plainText';
import { endpoint, json } from '../endpoint';
import { numbered, ofMachine } from '../params';
import { count, flag, list, moment, object, of, oneOf, optional, record, text, type TypeOf } from '../shape';

/** How many measurements are listed at most. */
export const MOST_CALIBRATIONS = 500;

const finite = of<number>(() => Joi.number());
const figure = object({
  id: of<string>(() => line(40)),
  label: of<string>(() => line(80)),
  value: finite,
  unit: of<string>(() => line(20).allow('')),
});

/** Where the values of a measurement went. */
const wentTo = object({ file: flag, board: flag, store: flag });

const outcome = oneOf('found', 'poor', 'done');
const toRecord = object({
  calibration: of<string>(() => line(40)),
  outcome,
  words: of<string>(() => lines(1000)),
  evidence: list(
    of<string>(() => lines(600)),
    40,
  ),
  figures: list(figure, 40),
  wentTo,
  map: optional(of<BedMap>(bedMapSchema)),
});
export type CalibrationToRecord = TypeOf<typeof toRecord>;

/** One measurement on record. */
const calibration = object({
  id: count,
  calibration: text,
  title: text,
  at: moment,
  outcome,
  words: text,
  evidence: list(text),
  figures: list(figure),
  wentTo,
  /** The facts it was measured with, in words. */
  with: record(text),
  map: optional(of<BedMap>(bedMapSchema)),
});
export type StoredCalibration = TypeOf<typeof calibration>;

/** How something that is measured stands today. */
const upkeep = object({
  id: text,
  title: text,
  state: oneOf('due', 'not due', 'not known'),
  because: text,
  lastAt: optional(moment),
  dueAt: optional(moment),
  /** What was measured and the machine file does not have. */
  aside: optional(
    list(object({ key: text, label: text, unit: text, measured: finite, has: finite, calibration: text })),
  ),
});
export type UpkeepOfMachine = TypeOf<typeof upkeep>;

const answer = object({ calibrations: list(calibration), upkeep: list(upkeep) });
export type CalibrationRecord = TypeOf<typeof answer>;

export const calibrations = {
  calibrations: endpoint('get /machines/{id}/calibrations', {
    summary: 'What was measured at a machine, newest first, and what is due today and what is not',
    params: ofMachine,
    answer: json(answer),
  }),
  addCalibration: endpoint('post /machines/{id}/calibrations', {
    summary: 'Write down what was measured, or that something was done today',
    params: ofMachine,
    body: toRecord,
    answer: json(answer),
    refusals: ['bad-value'],
  }),
  takeCalibrationBack: endpoint('delete /machines/{id}/calibrations/{number}', {
    summary: 'Take a measurement off the record; what it settled is due again',
    params: numbered,
    answer: json(answer),
  }),
};
