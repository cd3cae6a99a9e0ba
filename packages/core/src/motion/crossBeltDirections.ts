import Joi from 'joi';
import { calculation } from '../calculation/calculation';
import { once } from '../tree/once';

const straight = ['+x', '-x', '+y', '-y'] as const;
const diagonal = ['+x+y', '+x-y', '-x+y', '-x-y'] as const;
type Asked = (typeof straight)[number];
type Moved = Asked | (typeof diagonal)[number];

interface Input {
  observed: { asked: Asked; moved: Moved }[];
  invertedNow?: { a: boolean; b: boolean };
}
type Output =
  | { toggleA: boolean; toggleB: boolean; swapMotors: boolean }
  | { deadMotor: 'A' | 'B' }
  | { contradiction: true; because: string };

const schema = once(() =>
  Joi.object({
    observed: Joi.array()
      .items(Joi.object({ asked: Joi.valid(...straight), moved: Joi.valid(...straight, ...diagonal) }))
      .min(2)
      .max(100)
      .custom((rows: Input['observed'], helpers) =>
        rows.some((row) => row.asked.endsWith('x')) && rows.some((row) => row.asked.endsWith('y'))
          ? rows
          : helpers.message({ custom: '{{#label}} needs one x and one y observation' }),
      ),
    invertedNow: Joi.object({ a: Joi.boolean(), b: Joi.boolean() }).optional(),
  }),
);

/** How the two plugs may sit: crossed or not, and the sign each output then turns its motor with (0: dead). */
interface Hypothesis {
  crossed: boolean;
  signA: number;
  signB: number;
}

/**
 * What to change on a cross-belt frame (x = (A+B)/2, y = (A−B)/2) from what was asked and how the head moved.
 * Exchange the two plugs if `swapMotors`, then toggle the inversion of output A and/or B. Present inversions
 * are taken as equal unless `invertedNow` says otherwise: then the toggles say what is to change from those.
 * Every arrangement (plugs crossed or not, each output right, reversed or dead) is tried; the first that
 * explains all observations answers. One that no arrangement explains is a contradiction.
 */
export const crossBeltDirections = calculation<Input, Output>(
  'crossBeltDirections',
  schema,
  ({ observed, invertedNow }) => {
    const dead = sole(arrangements([0, 1], [0, -1], [1, 0], [-1, 0]), observed);
    if (dead) return { deadMotor: (dead.signA === 0) !== dead.crossed ? 'A' : 'B' };
    const alive = sole(arrangements([1, 1], [1, -1], [-1, 1], [-1, -1]), observed);
    if (!alive)
      return {
        contradiction: true,
        because:
          'no arrangement of plugs and directions moves like this; look for a slipping belt or repeat the test',
      };
    if (!alive.crossed) return { toggleA: alive.signA < 0, toggleB: alive.signB < 0, swapMotors: false };
    // An inversion belongs to the output, a motor's own sense to the motor: after the exchange each output meets
    // the sense the other one showed, less the difference between the two inversions.
    const unequal = invertedNow !== undefined && invertedNow.a !== invertedNow.b;
    return { toggleA: alive.signB < 0 !== unequal, toggleB: alive.signA < 0 !== unequal, swapMotors: true };
  },
);

function arrangements(...signs: [number, number][]): Hypothesis[] {
  return [false, true].flatMap((crossed) => signs.map(([signA, signB]) => ({ crossed, signA, signB })));
}

function sole(candidates: Hypothesis[], observed: Input['observed']): Hypothesis | undefined {
  return candidates.find((candidate) =>
    observed.every((row) => movement(candidate, row.asked) === row.moved),
  );
}

/** The way the head goes, under a hypothesis, when `asked` is commanded. */
function movement({ crossed, signA, signB }: Hypothesis, asked: Asked): Moved | '' {
  const sign = asked.startsWith('+') ? 1 : -1;
  const outputA = sign * signA;
  const outputB = sign * (asked.endsWith('x') ? 1 : -1) * signB;
  const [a, b] = crossed ? [outputB, outputA] : [outputA, outputB];
  const part = (value: number, axis: string) => (value === 0 ? '' : `${value > 0 ? '+' : '-'}${axis}`);
  // Made of one way of X and one of Y.
  return `${part(a + b, 'x')}${part(a - b, 'y')}` as Moved;
}
