import Joi from 'joi';
import { once } from '../tree/once';

/** A map of the plate: heights in mm, `z[iy][ix]`, rows from front to back. */
export interface BedMap {
  xs: number[];
  ys: number[];
  z: number[][];
}

const lines = () =>
  Joi.array()
    .items(Joi.number().min(-2000).max(2000))
    .min(2)
    .max(15)
    .custom((values: number[], helpers) =>
      values.every((value, index) => index === 0 || value > (values[index - 1] ?? -Infinity))
        ? values
        : helpers.message({ custom: '{{#label}} must rise' }),
    );
/** Guards a bed map: lines that rise, and a height at every crossing. */
export const bedMapSchema = once(() =>
  Joi.object<BedMap>({
    xs: lines().required(),
    ys: lines().required(),
    z: Joi.array()
      .items(Joi.array().items(Joi.number().min(-50).max(50)))
      .required(),
  }).custom((map: BedMap, helpers) =>
    map.z.length === map.ys.length && map.z.every((row) => row.length === map.xs.length)
      ? map
      : helpers.message({
          custom: '{{#label}} must have a row of heights for every y, and in it a height for every x',
        }),
  ),
);
