import Joi from 'joi';
import { line } from '../text/plainText';
import { calculation, positive, TOLERANCE } from '../calculation/calculation';
import { once } from '../tree/once';

interface Size {
  nominalMm: number;
  measuredMm: number;
}
interface Input {
  axis: string;
  drive: 'belt' | 'screw' | 'roller';
  sizes: Size[];
}
interface Output {
  offsetMm: number;
  scalePct: number;
  verdict: 'leave' | 'line width' | 'plastic shrinkage' | 'measure travel';
  because: string;
}

const CLOSE_ENOUGH_MM = 0.08;

const schema = once(() =>
  Joi.object({
    axis: line(8),
    drive: Joi.valid('belt', 'screw', 'roller'),
    sizes: Joi.array()
      .items(Joi.object({ nominalMm: positive(), measuredMm: positive() }))
      .min(1)
      .max(100),
  }),
);

/**
 * What a printed cube says about an axis. Errors within ±0.08 mm: leave. With two or more different sizes a
 * straight line parts a constant offset (line width) from a proportion; of the two, the one that explains more
 * of the error at the mean size is named. A proportional error on a belt or screw is the plastic shrinking
 * (scale in the slicer): the drive's geometry does not change. On a roller, or with one size only, travel must
 * be measured without plastic before steps may be touched.
 */
export const cubeVerdict = calculation<Input, Output>('cubeVerdict', schema, ({ axis, drive, sizes }) => {
  const { offsetMm, scalePct } = fit(sizes);
  const worst = Math.max(...sizes.map((size) => Math.abs(size.measuredMm - size.nominalMm)));
  const result = { offsetMm, scalePct };
  if (worst <= CLOSE_ENOUGH_MM + TOLERANCE) {
    return {
      ...result,
      verdict: 'leave',
      because: `${axis} is within ±${CLOSE_ENOUGH_MM} mm; nothing to change`,
    };
  }
  const proportional = (mean(sizes.map((size) => size.nominalMm)) * scalePct) / 100;
  if (distinct(sizes) > 1 && Math.abs(offsetMm) >= Math.abs(proportional)) {
    return {
      ...result,
      verdict: 'line width',
      because: `${axis} is off by the same amount at every size; set the line width in the slicer`,
    };
  }
  if (distinct(sizes) > 1 && drive !== 'roller') {
    return {
      ...result,
      verdict: 'plastic shrinkage',
      because: `${axis} is off in proportion and a ${drive} cannot be; scale in the slicer, leave the steps`,
    };
  }
  return {
    ...result,
    verdict: 'measure travel',
    because: `one print cannot tell the machine from the plastic; measure the travel of ${axis} without plastic`,
  };
});

/** Least squares of measured against nominal; one size alone is read as proportion. */
function fit(sizes: Size[]): { offsetMm: number; scalePct: number } {
  const x = mean(sizes.map((size) => size.nominalMm));
  const y = mean(sizes.map((size) => size.measuredMm));
  if (distinct(sizes) < 2) return { offsetMm: 0, scalePct: (y / x - 1) * 100 };
  const slope =
    sizes.reduce((sum, size) => sum + (size.nominalMm - x) * (size.measuredMm - y), 0) /
    sizes.reduce((sum, size) => sum + (size.nominalMm - x) ** 2, 0);
  return { offsetMm: y - slope * x, scalePct: (slope - 1) * 100 };
}

const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const distinct = (sizes: Size[]) => new Set(sizes.map((size) => size.nominalMm)).size;
