import Joi from 'joi';
import { calculation, TOLERANCE } from '../calculation/calculation';
import { type Heights, heightsKeys, rmsOf, spotsOf } from './heights';

export type Shape =
  'flat' | 'tilted' | 'bowl' | 'dome' | 'twisted' | 'curved along x' | 'curved along y' | 'irregular';
interface Output {
  shape: Shape;
  /** Share of what varies that this shape explains, 0 to 1; of an irregular one, what all shapes together do. */
  share: number;
  advice: string;
}

/** A plate is flat below this, in mm. */
const FLAT_MM = 0.02;
/** Curved both ways when the lesser curve is at least this much of the other. */
const BOTH_WAYS = 0.4;
const IRREGULAR_BELOW = 0.5;

const ADVICE: Readonly<Record<Shape, string>> = {
  flat: 'It needs no map. Leave the screws alone.',
  tilted: 'Tram it by its screws first; a map should not carry what screws can.',
  bowl: 'Its edges stand high. Look whether clips or screws bend it, warm it through, and let the map carry the rest.',
  dome: 'Its middle stands high, as warm plates do. Warm it through before you map, and let the map carry it.',
  twisted: 'Two corners across from each other stand high. Look whether the frame stands square and the rails lie parallel; screws cannot mend it, a map can.',
  'curved along x': 'It is curved from left to right alone: the rail of X sags or is bent, rather than the plate. Lay a straight edge along the rail.',
  'curved along y': 'It is curved from front to back alone: the rails of Y are bent, rather than the plate. Lay a straight edge along them.',
  irregular: 'It is none of the usual shapes. Look for dirt below the plate and judge the probe; then map it finer.',
}; // prettier-ignore

const scaled = (value: number, lines: readonly number[]): number => {
  const [low, high] = [lines[0] ?? 0, lines.at(-1) ?? 1];
  return (2 * (value - low)) / (high - low) - 1;
};
const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, value, index) => sum + value * (b[index] ?? 0), 0);

/** Columns made to stand square to each other, one after another (Gram and Schmidt); one that adds nothing is all zeros. */
function orthonormal(columns: readonly number[][]): number[][] {
  const made: number[][] = [];
  for (const column of columns) {
    let left = [...column];
    for (const unit of made) {
      const share = dot(left, unit);
      left = left.map((value, index) => value - share * (unit[index] ?? 0));
    }
    const length = Math.sqrt(dot(left, left));
    made.push(left.map((value) => (length > TOLERANCE ? value / length : 0)));
  }
  return made;
}

/** The coefficients of x² and y² in a fit on 1, x, y, xy, x², y², by going back through the orthonormal columns. */
function curves(columns: readonly number[][], units: readonly number[][], z: readonly number[]): [number, number] {
  const lengthOf = (index: number) => dot(columns[index] ?? [], units[index] ?? []);
  const across = dot(columns[5] ?? [], units[4] ?? []);
  const yy = lengthOf(5) > 0 ? dot(z, units[5] ?? []) / lengthOf(5) : 0;
  const xx = lengthOf(4) > 0 ? (dot(z, units[4] ?? []) - yy * across) / lengthOf(4) : 0;
  return [xx, yy];
} // prettier-ignore

function curved([xx, yy]: [number, number]): Shape {
  const [less, more] = [Math.min(Math.abs(xx), Math.abs(yy)), Math.max(Math.abs(xx), Math.abs(yy))];
  if (xx * yy > 0 && less >= BOTH_WAYS * more - TOLERANCE) return xx > 0 ? 'bowl' : 'dome';
  return Math.abs(xx) >= Math.abs(yy) ? 'curved along x' : 'curved along y';
}

/**
 * What shape a plate has: least squares on 1, x, y, xy, x², y², coordinates scaled to ±1; the variance each explains is
 * counted in that order. Flat when all heights lie within 0.02 mm of their mean (root of the mean square). Three lines each
 * way at least.
 */
export const mapShape = calculation<Heights, Output>(
  'mapShape',
  () => Joi.object(heightsKeys(3)),
  (map) => {
    const spots = spotsOf(map);
    const mean = spots.reduce((sum, { z }) => sum + z, 0) / spots.length;
    const z = spots.map((spot) => spot.z - mean);
    const told = (shape: Shape, share: number): Output => ({ shape, share, advice: ADVICE[shape] });
    if (rmsOf(z) < FLAT_MM) return told('flat', 1);
    const at = spots.map(({ x, y }) => ({ u: scaled(x, map.xs), v: scaled(y, map.ys) }));
    const columns = [
      at.map(() => 1),
      at.map(({ u }) => u),
      at.map(({ v }) => v),
      at.map(({ u, v }) => u * v),
      at.map(({ u }) => u * u),
      at.map(({ v }) => v * v),
    ];
    const units = orthonormal(columns);
    const whole = dot(z, z);
    const [, x = 0, y = 0, xy = 0, xx = 0, yy = 0] = units.map((unit) => dot(z, unit) ** 2 / whole);
    const [tilt, twist, curve] = [x + y, xy, xx + yy];
    if (tilt + twist + curve < IRREGULAR_BELOW) return told('irregular', tilt + twist + curve);
    if (tilt >= twist && tilt >= curve) return told('tilted', tilt);
    return twist >= curve ? told('twisted', twist) : told(curved(curves(columns, units, z)), curve);
  },
);
