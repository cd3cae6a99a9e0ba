import type Joi from 'joi';

/** A JSON Schema of draft 2020-12; `false` lets nothing through. */
export type JsonSchema = boolean | { [keyword: string]: unknown };

/** What Joi tells of a schema: the parts that are turned here. */
interface Described {
  type?: string;
  flags?: { only?: boolean; presence?: 'required' | 'optional' | 'forbidden'; unknown?: boolean };
  allow?: unknown[];
  rules?: { name: string; args?: Record<string, unknown> }[];
  keys?: Record<string, Described>;
  patterns?: { regex?: string; schema?: Described; rule: Described }[];
  items?: Described[];
  ordered?: Described[];
  matches?: Match[];
  whens?: Match[];
  metas?: { component?: string }[];
}
interface Match {
  schema?: Described;
  ref?: { path: string[]; ancestor?: number };
  is?: Described;
  then?: Described;
  otherwise?: Described;
  switch?: { is: Described; then: Described }[];
}

/**
 * What a Joi schema lets through as it stands (nothing converted), as a JSON Schema. What Joi decides by code of ours
 * (`custom`) cannot be told in one: such a schema lets through a little more.
 */
export const jsonSchema = (joi: Joi.Schema): JsonSchema => turned(joi.describe());

/** The marker that Joi puts before values that are the only ones. */
const isMarker = (value: unknown): boolean =>
  value !== null && typeof value === 'object' && 'override' in value;

function turned(described: Described): JsonSchema {
  const { type = 'any', flags = {}, rules = [], metas = [] } = described;
  const component = metas.find((meta) => meta.component !== undefined)?.component;
  if (component !== undefined) return { $ref: `#/components/schemas/${component}` };
  const allow = (described.allow ?? []).filter((value) => !isMarker(value));
  if (flags.presence === 'forbidden') return false;
  if (flags.only) return allow.length === 1 ? { const: allow[0] } : { enum: allow };
  const plain = (TYPES[type] ?? (() => ({})))(described);
  // A text that may be empty needs no way of its own where nothing but its length is asked.
  const isOwnWay = (value: unknown) => value !== '' || rules.some(({ name }) => name !== 'max');
  const ways = allow.filter(isOwnWay);
  return ways.length === 0 ? plain : { anyOf: [{ enum: ways }, plain] };
}

const TYPES: Readonly<Record<string, (described: Described) => JsonSchema>> = {
  any: () => ({}),
  boolean: () => ({ type: 'boolean' }),
  string: ({ rules = [], allow = [] }) => ({
    type: 'string',
    // Joi takes no empty text unless that is said.
    ...(!allow.includes('') && { minLength: 1 }),
    ...rulesOf(rules, STRING_RULES),
  }),
  number: ({ rules = [] }) => ({ type: 'number', ...rulesOf(rules, NUMBER_RULES) }),
  array: arrayOf,
  object: objectOf,
  alternatives: alternativesOf,
};

type Rules = Readonly<Record<string, (args: Record<string, unknown>) => Record<string, unknown>>>;

/** A limit that is another value of the same document cannot be told. */
const limited = (keyword: string) => (args: Record<string, unknown>) =>
  typeof args['limit'] === 'number' ? { [keyword]: args['limit'] } : {};
const bothLimits = (least: string, most: string) => (args: Record<string, unknown>) => ({
  ...limited(least)(args),
  ...limited(most)(args),
});

const STRING_RULES: Rules = {
  min: limited('minLength'),
  max: limited('maxLength'),
  length: bothLimits('minLength', 'maxLength'),
  pattern: (args) => {
    const pattern = sourceOf(String(args['regex']));
    const inverted = (args['options'] as { invert?: boolean } | undefined)?.invert === true; // as Joi documents it
    return inverted ? { not: { pattern } } : { pattern };
  },
  isoDate: () => ({ pattern: '^[+-]?\\d{4,6}-\\d{2}' }),
  base64: () => ({ pattern: '^[A-Za-z0-9+/]*={0,2}$' }),
  hex: () => ({ pattern: '^[0-9A-Fa-f]*$' }),
};
const NUMBER_RULES: Rules = {
  min: limited('minimum'),
  max: limited('maximum'),
  greater: limited('exclusiveMinimum'),
  less: limited('exclusiveMaximum'),
  integer: () => ({ type: 'integer' }),
};
const ARRAY_RULES: Rules = {
  min: limited('minItems'),
  max: limited('maxItems'),
  length: bothLimits('minItems', 'maxItems'),
  unique: (args) => (args['comparator'] === undefined ? { uniqueItems: true } : {}),
};
const OBJECT_RULES: Rules = {
  min: limited('minProperties'),
  max: limited('maxProperties'),
  length: bothLimits('minProperties', 'maxProperties'),
};

/** Rules may tell the same keyword twice; where they do, both count. */
function rulesOf(rules: NonNullable<Described['rules']>, known: Rules): { [keyword: string]: unknown } {
  const told = rules.map(({ name, args = {} }) => (known[name] ?? (() => ({})))(args));
  const [whole, extra] = told.reduce<[Record<string, unknown>, unknown[]]>(
    ([all, twice], one) =>
      Object.keys(one).some((keyword) => keyword in all && keyword !== 'type')
        ? [all, [...twice, one]]
        : [{ ...all, ...one }, twice],
    [{}, []],
  );
  return extra.length === 0 ? whole : { ...whole, allOf: extra };
}

/** The source of a pattern written as `/…/flags`. */
const sourceOf = (written: string): string => /^\/([^]*)\/[a-z]*$/.exec(written)?.[1] ?? written;

function arrayOf({ rules = [], items = [], ordered = [] }: Described): JsonSchema {
  const rest = items.map(turned);
  const needed = ordered.filter(({ flags }) => flags?.presence === 'required').length;
  return {
    type: 'array',
    ...(ordered.length > 0 && { prefixItems: ordered.map(turned), minItems: needed }),
    ...(rest.length > 0 ? { items: rest.length === 1 ? rest[0] : { anyOf: rest } } : ordered.length > 0 && { items: false }), // prettier-ignore
    ...rulesOf(rules, ARRAY_RULES),
  };
}

function objectOf({ flags = {}, keys, patterns = [], rules = [] }: Described): JsonSchema {
  const children = Object.entries(keys ?? {});
  const required = children.filter(([, { flags: own }]) => own?.presence === 'required').map(([key]) => key);
  const conditions = children.flatMap(([key, { whens = [] }]) => whens.flatMap((when) => whenOf(key, when)));
  const isOpen = flags.unknown === true || (keys === undefined && patterns.length === 0);
  return {
    type: 'object',
    ...(children.length > 0 && { properties: Object.fromEntries(children.map(([key, child]) => [key, turned(child)])) }),
    ...(patterns.length > 0 && { patternProperties: Object.fromEntries(patterns.map((one) => [keyPattern(one), turned(one.rule)])) }),
    ...(required.length > 0 && { required }),
    ...(!isOpen && { additionalProperties: false }),
    ...(conditions.length > 0 && { allOf: conditions }),
    ...rulesOf(rules, OBJECT_RULES),
  };
} // prettier-ignore

const escaped = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');

/** The pattern that keys must meet which are told by a pattern, by some words, or by the length of a text. */
function keyPattern({ regex, schema }: NonNullable<Described['patterns']>[number]): string {
  if (regex !== undefined) return sourceOf(regex);
  const words = (schema?.allow ?? []).filter((value) => !isMarker(value));
  if (words.length > 0) return `^(?:${words.map((word) => escaped(String(word))).join('|')})$`;
  const rules = new Map((schema?.rules ?? []).map(({ name, args = {} }) => [name, args]));
  const pattern = rules.get('pattern')?.['regex'];
  if (pattern !== undefined) return sourceOf(String(pattern));
  const [least, most] = [rules.get('min')?.['limit'] ?? 1, rules.get('max')?.['limit'] ?? ''];
  return `^[^]{${String(least)},${String(most)}}$`;
}

/** That a value at a path meets a schema, and is there where Joi wants it to be. */
function meets(path: readonly string[], is: Described): JsonSchema {
  const [key, ...rest] = path;
  if (key === undefined) return turned(is);
  const isNeeded = is.flags?.presence === 'required' || is.flags?.only === true;
  return { properties: { [key]: meets(rest, is) }, ...(isNeeded && { required: [key] }) };
}

/** What a field must be, by another beside it. */
function whenOf(key: string, { ref, is, then, otherwise, switch: cases }: Match): JsonSchema[] {
  // Only what stands beside it can be told.
  if (!ref || (ref.ancestor ?? 1) !== 1) return [];
  const field = (schema: Described | undefined) =>
    schema && { properties: { [key]: turned(schema) }, ...(schema.flags?.presence === 'required' && { required: [key] }) }; // prettier-ignore
  const list = cases ?? (is && then ? [{ is, then }] : []);
  const told: JsonSchema[] = list.map((one) => ({ if: meets(ref.path, one.is), then: field(one.then) }));
  const last = field(otherwise);
  return last && list.length > 0
    ? [...told, { if: { not: { anyOf: list.map((one) => meets(ref.path, one.is)) } }, then: last }]
    : told;
}

function alternativesOf({ matches = [] }: Described): JsonSchema {
  return { anyOf: matches.flatMap(waysOf) };
}

function waysOf({ schema, ref, is, then, otherwise, switch: cases }: Match): JsonSchema[] {
  if (schema) return [turned(schema)];
  const path = ref?.path ?? [];
  const list = cases ?? (is && then ? [{ is, then }] : []);
  const ways: JsonSchema[] = list.map((one) => ({ allOf: [meets(path, one.is), turned(one.then)] }));
  if (!otherwise) return ways;
  const none = { not: { anyOf: (cases ?? (is ? [{ is }] : [])).map((one) => meets(path, one.is)) } };
  return [...ways, { allOf: [none, turned(otherwise)] }];
}
