import Joi from 'joi';
import { finite } from '../calculation/calculation';

/** Heights of a plate in mm at the crossings of lines: `z[iy][ix]`, rows from front to back, both lines rising. */
export interface Heights {
  xs: number[];
  ys: number[];
  z: number[][];
}

const MOST_LINES = 200;

const rising = (least: number) =>
  Joi.array()
    .items(finite())
    .min(least)
    .max(MOST_LINES)
    .custom((values: number[], helpers) =>
      values.every((value, index) => index === 0 || value > (values[index - 1] ?? Infinity))
        ? values
        : helpers.message({ custom: '{{#label}} must rise from each value to the next' }),
    );

/**
 * The keys of a calculation's schema that guard heights; a row of `z` for every y, in it a height for every x.
 * @param least lines each way, 1 to 200
 */
export const heightsKeys = (least: number) => ({
  xs: rising(least),
  ys: rising(least),
  z: Joi.array()
    .items(Joi.array().items(finite()))
    .when('ys', {
      is: Joi.exist(),
      then: Joi.array().length(Joi.ref('ys.length')),
    })
    .custom((rows: number[][], helpers) => {
      const parents = helpers.state.ancestors as [Partial<Heights>]; // what Joi gives: the object around
      const wide = parents[0].xs?.length;
      return rows.every(({ length }) => length === wide)
        ? rows
        : helpers.message({ custom: `{{#label}} must have ${wide} heights in each row, one for every x` });
    }),
});

/** A point of a map: where it lies and how high. */
export interface Spot {
  x: number;
  y: number;
  z: number;
}

/** Every crossing of the lines with its height, row by row. */
export const spotsOf = ({ xs, ys, z }: Heights): Spot[] =>
  ys.flatMap((y, row) => xs.map((x, column) => ({ x, y, z: z[row]?.[column] ?? 0 })));

/** Highest less lowest, mm. */
export const rangeOf = (values: readonly number[]): number =>
  values.reduce((most, value) => Math.max(most, value), -Infinity) -
  values.reduce((least, value) => Math.min(least, value), Infinity);

/** Root of the mean square. */
export const rmsOf = (values: readonly number[]): number =>
  Math.sqrt(values.reduce((sum, value) => sum + value * value, 0) / values.length);
