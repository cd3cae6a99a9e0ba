import { once } from '../tree/once';
import Joi from 'joi';

/** A calculation was given something it cannot compute with: `key` names the value, `message` the range. */
export class CalcError extends Error {
  constructor(
    readonly key: string,
    message: string,
  ) {
    super(message);
    this.name = 'CalcError';
  }
}

export interface Calculation<In, Out> {
  (input: In): Out;
  readonly calcName: string;
  /** The same without the guard, for facts that a schema has checked already. */
  readonly ofChecked: (input: In) => Out;
  readonly schema: () => Joi.Schema;
}

/** Slack for every limit, so that 0.1 + 0.2 is still inside 0.3. */
export const TOLERANCE = 1e-9;

/** A finite number above zero: a size, rate or resistance. */
export const positive = () => Joi.number().unsafe().greater(0).max(1e12);
/** A finite number of either sign. */
export const finite = () => Joi.number().unsafe().min(-1e12).max(1e12);
/** A finite number, zero or above. */
export const atLeastZero = () => Joi.number().unsafe().min(0).max(1e12);
/** `[low, high]` in rising order. */
export const span = () =>
  Joi.array()
    .ordered(finite().required(), finite().required())
    .length(2)
    .custom((value: [number, number], helpers) =>
      value[0] <= value[1]
        ? value
        : helpers.message({ custom: '{{#label}} must rise from its first to its second value' }),
    );

/**
 * Wraps a pure function with the schema that guards its input, so that a direct call, the command line and
 * the interface refuse the same things in the same words. Neither negative zero nor a number that is not finite leaves
 * it.
 * @throws {CalcError} naming the first offending key and its range, or the result that left the range of numbers
 */
export function calculation<In, Out>(
  name: string,
  guard: () => Joi.Schema,
  run: (input: In) => Out,
): Calculation<In, Out> {
  const schema = once(guard);
  const ofChecked = (input: In): Out => withoutNegativeZero(run(input));
  const guarded = (input: In): Out => {
    const { error } = schema().validate(input, { convert: false, abortEarly: true, presence: 'required' });
    if (error) {
      const detail = error.details[0];
      throw new CalcError(detail?.path.join('.') || name, error.message);
    }
    const output = ofChecked(input);
    const beyond = notFinite(output);
    if (beyond !== undefined)
      throw new CalcError(
        name,
        `${[name, ...beyond].join('.')} comes out beyond all numbers; a value given is far too small or too large`,
      );
    return output;
  };
  return Object.assign(guarded, { calcName: name, schema, ofChecked });
}

/** The path to the first number that is not finite. */
function notFinite(value: unknown): string[] | undefined {
  if (typeof value === 'number') return Number.isFinite(value) ? undefined : [];
  if (value === null || typeof value !== 'object') return undefined;
  for (const [key, item] of Object.entries(value)) {
    const below = notFinite(item);
    if (below) return [key, ...below];
  }
  return undefined;
}

function withoutNegativeZero<T>(value: T): T {
  // A number stays a number.
  if (typeof value === 'number') return (value === 0 ? 0 : value) as T;
  // Each thing keeps its type.
  if (Array.isArray(value)) return value.map(withoutNegativeZero) as T;
  if (value !== null && typeof value === 'object') {
    // The same keys, each with a value of the same type.
    return Object.fromEntries(
      Object.entries(value).map(([key, item]) => [key, withoutNegativeZero(item)]),
    ) as T;
  }
  return value;
}
