import type { SettingValue } from '@jolly/core/kit/settingValue';
import { once } from '@jolly/core/tree/once';
import Joi from 'joi';

declare const TYPE: unique symbol;

/** A Joi schema that knows the type of what it lets through, so that a type and its check are written once. */
export interface Shape<T> {
  readonly joi: Joi.Schema;
  readonly [TYPE]?: T;
}
/** A field that may be missing. */
export interface Optional<T> extends Shape<T> {
  readonly optional: true;
}

/** What a shape lets through. */
export type TypeOf<S> = S extends Shape<infer T> ? T : never;

export type Fields = Record<string, Shape<unknown>>;
type Flat<T> = { [K in keyof T]: T[K] };
/** The object that has these fields. */
export type Of<F extends Fields> = Flat<
  { [K in keyof F as F[K] extends Optional<unknown> ? never : K]: TypeOf<F[K]> } & {
    [K in keyof F as F[K] extends Optional<unknown> ? K : never]?: TypeOf<F[K]>;
  }
>;

/**
 * A shape whose type is stated: for types that the core guards with a schema of its own.
 * The schema is made when something is first held against it: a window uses few of all there are.
 */
export const of = <T>(make: () => Joi.Schema): Shape<T> => {
  const joi = once(make);
  return {
    get joi() {
      return joi();
    },
  };
};

/** Something of the core that is passed on whole: an object with at least these fields. */
export const known = <T extends object>(...fields: (keyof T & string)[]): Shape<T> =>
  of(() => Joi.object(Object.fromEntries(fields.map((field) => [field, Joi.any().required()]))).unknown());

/** What `components.schemas` of the API's description tells under a name, instead of what this shape by itself would tell. */
export const component = <T>(name: string, shape: Shape<T>): Shape<T> =>
  of(() => shape.joi.meta({ component: name }));

export const optional = <T>(shape: Shape<T>): Optional<T> => ({
  get joi() {
    return shape.joi;
  },
  optional: true,
});
export const nullable = <T>(shape: Shape<T>): Shape<T | null> => of(() => shape.joi.allow(null));

export const text: Shape<string> = of(() => Joi.string().allow(''));
export const count: Shape<number> = of(() => Joi.number().integer().min(0));
export const flag: Shape<boolean> = of(() => Joi.boolean());
/** A moment, as ISO text. */
export const moment: Shape<string> = of(() => Joi.string().isoDate());
/** The value of an option. */
export const settingValue: Shape<SettingValue> = of(() =>
  Joi.alternatives(Joi.number(), Joi.boolean(), Joi.string().allow('')),
);
export const anything: Shape<unknown> = of(() => Joi.any());

export const oneOf = <const T extends readonly (string | boolean)[]>(...values: T): Shape<T[number]> =>
  of(() => Joi.valid(...values));

export const list = <T>(shape: Shape<T>, most?: number): Shape<T[]> =>
  of(() => {
    const items = Joi.array().items(shape.joi);
    return most === undefined ? items : items.max(most);
  });

export const record = <T>(shape: Shape<T>): Shape<Record<string, T>> =>
  of(() => Joi.object().pattern(Joi.string(), shape.joi));

/** An object with these fields; every field that is not `optional` must be there. */
export const object = <F extends Fields>(fields: F): Shape<Of<F>> =>
  of(() =>
    Joi.object(
      Object.fromEntries(
        Object.entries(fields).map(([name, field]) => [
          name,
          'optional' in field ? field.joi : field.joi.required(),
        ]),
      ),
    ),
  );

/** The fields of several objects in one. */
export const both = <A extends object, B extends object>(a: Shape<A>, b: Shape<B>): Shape<A & B> =>
  of(() => (a.joi as Joi.ObjectSchema).concat(b.joi as Joi.ObjectSchema)); // Both are objects by their types.

export const anyOf = <S extends readonly Shape<unknown>[]>(...shapes: S): Shape<TypeOf<S[number]>> =>
  of(() => Joi.alternatives().try(...shapes.map(({ joi }) => joi)));
