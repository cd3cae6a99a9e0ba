import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Validator } from '@seriousme/openapi-schema-validator';
import { machineSchema } from '@jolly/core/machine/machine';
import { Ajv2020 } from 'ajv/dist/2020.js';
import Joi from 'joi';
import { describe, expect, it } from 'vitest';
import { parseAllDocuments } from 'yaml';
import { FILE_FAMILIES, type FileFamily } from '../src/fileFamilies';
import { fileSchema } from '../src/fileSchemas';
import { jsonSchema } from '../src/jsonSchema';
import { openApi } from '../src/openApi';
import { seeded } from '../../core/test/fixtures/seeded';

const root = join(import.meta.dirname, '../../..');
const ajv = new Ajv2020({ strict: false, allErrors: false });
const accepts = (schema: unknown) => {
  const validate = ajv.compile(schema as object);
  return (value: unknown): string =>
    validate(value) ? '' : `${validate.errors?.[0]?.instancePath} ${validate.errors?.[0]?.message}`;
};

/** Every document of the catalogue, its demo and the kit, with where it stands. */
const documents = ['boards', 'chips', 'dialects', 'parts', 'programmers', 'demo', 'demo/jobs']
  .flatMap((folder) =>
    readdirSync(join(root, 'catalogue', folder))
      .filter((name) => name.endsWith('.yaml'))
      .map((name) => `catalogue/${folder}/${name}`),
  )
  .concat('packages/firmware/lantern/kit.yaml')
  .flatMap((path) =>
    parseAllDocuments(readFileSync(join(root, path), 'utf8')).map((document): [string, unknown] => [path, document.toJS()]),
  ); // prettier-ignore
const familyOf = (value: unknown) => String((value as { jolly?: string } | null)?.jolly).split('/')[0];
const isFamily = (name: string | undefined): name is FileFamily => FILE_FAMILIES.some((one) => one === name);

/** One thing of a document changed: a key gone, strange, or twice; a value of another kind, far out, or not among its choices. */
function mutant(document: unknown, random: () => number): unknown {
  const copy = structuredClone(document) as Record<string, unknown>;
  const places: { holder: Record<string, unknown>; key: string }[] = [];
  const visit = (node: unknown) => {
    if (node === null || typeof node !== 'object') return;
    for (const key of Object.keys(node)) {
      const holder = node as Record<string, unknown>;
      places.push({ holder, key });
      visit(holder[key]);
    }
  };
  visit(copy);
  const place = places[Math.floor(random() * places.length)];
  if (!place) return copy;
  const { holder, key } = place;
  const value = holder[key];
  const ways: (() => void)[] = [
    () => Reflect.deleteProperty(holder, key),
    () => (holder[`${key}-x`] = value),
    () => (holder[key] = typeof value === 'number' ? String(value) : 7),
    () => (holder[key] = typeof value === 'number' ? value * -1e7 : null),
    () => (holder[key] = typeof value === 'string' ? `${value} ${'x'.repeat(300)}` : []),
    () => (holder[key] = typeof value === 'string' ? '' : 'else'),
  ];
  ways[Math.floor(random() * ways.length)]?.();
  return copy;
}

/** A row for each place of a schema that says something of its own: where it is, and what may stand there. */
function rowsOf(schema: unknown, at = ''): string[] {
  if (schema === null || typeof schema !== 'object') return [`${at}: ${String(schema)}`];
  const inside = Object.entries(schema).filter(([, value]) => value !== null && typeof value === 'object' && !isPlain(value)); // prettier-ignore
  const own = Object.entries(schema).filter(([key]) => !inside.some(([other]) => other === key));
  const said = own.map(([key, value]) => `${key} ${JSON.stringify(value)}`).join(', ');
  return [
    ...(said === '' ? [] : [`${at}: ${said.replace(NO_CONTROLS, 'plain')}`]),
    ...inside.flatMap(([key, value]) => rowsOf(value, key === 'properties' ? at : `${at}/${key}`)),
  ];
}
const isPlain = (value: unknown) =>
  Array.isArray(value) && value.every((one) => one === null || typeof one !== 'object');
/** The pattern of text that holds nothing unseen, as it stands in a row. */
const NO_CONTROLS = /"\^\(\?:\[\^\\\\u0000[^"]*"/g;

describe('schemas for the tools of others', () => {
  it('accept every file that comes with the product', () => {
    const validators = Object.fromEntries(
      FILE_FAMILIES.map((family) => [family, accepts(fileSchema(family))]),
    );
    const seen = new Set<string>();
    for (const [path, document] of documents) {
      const family = familyOf(document);
      if (!isFamily(family)) continue;
      seen.add(family);
      expect([path, validators[family]?.(document)]).toEqual([path, '']);
    }
    expect([...seen].sort()).toEqual([...FILE_FAMILIES].sort());
  });

  it('refuse of 200 seeded mutants of machines just those that the product refuses by their shape', () => {
    const valid = accepts(fileSchema('machine'));
    const machines = documents.filter(([, document]) => familyOf(document) === 'machine');
    const random = seeded(7);
    let refused = 0;
    for (let nth = 0; nth < 200; nth += 1) {
      const [path = '', document] = machines[nth % machines.length] ?? [];
      const changed = mutant(document, random);
      const { error } = machineSchema().validate(changed, { convert: false });
      const said = valid(changed);
      if (error) refused += 1;
      // Code of ours, and what is unique by a key of it, no JSON Schema can tell.
      if (error?.details.every(({ type }) => ['custom', 'array.unique', 'any.custom'].includes(type)))
        continue;
      expect([path, nth, said === '' ? 'fine' : 'refused']).toEqual([path, nth, error ? 'refused' : 'fine']);
      if (error === undefined) expect(said).toBe('');
    }
    expect(refused).toBeGreaterThan(100);
  });

  it.each<[string, Joi.Schema, unknown[], unknown[]]>([
    ['text is never empty unless that is said', Joi.string(), ['a'], ['', 1, null]],
    ['text that may be empty', Joi.string().allow('').max(2), ['', 'ab'], ['abc']],
    ['two patterns both count', Joi.string().pattern(/^a/).pattern(/b$/), ['ab'], ['a', 'b']],
    ['what a pattern must not find', Joi.string().pattern(/x/, { invert: true }), ['a'], ['axe']],
    ['numbers in their bounds', Joi.number().integer().min(1).max(3), [1, 3], [0, 4, 1.5, '2']],
    ['above and below', Joi.number().greater(0).less(1), [0.5], [0, 1]],
    ['one of some values, or nothing at all', Joi.valid('a', 1).allow(null), ['a', 1, null], ['b', 2]],
    ['a list of just two, in order', Joi.array().ordered(Joi.number().required(), Joi.string().required()).length(2), [[1, 'a']], [[1], ['a', 1], [1, 'a', 2]]],
    ['a list of several kinds', Joi.array().items(Joi.number(), Joi.boolean()).min(1).unique(), [[1, true]], [[], ['a'], [1, 1]]],
    ['keys that must and may be there', Joi.object({ a: Joi.number().required(), b: Joi.number() }), [{ a: 1 }, { a: 1, b: 2 }], [{}, { a: 1, c: 1 }]],
    ['keys by words and by pattern', Joi.object().pattern(Joi.valid('a.b', 'c'), Joi.number()).pattern(/^x/, Joi.string()).max(2), [{ 'a.b': 1, x1: 'y' }], [{ aXb: 1 }, { x: 1 }, { c: 1, x: 'a', xy: 'b' }]],
    ['any object', Joi.object(), [{}, { a: 1 }], [1, []]],
    ['a field by another beside it', Joi.object({ kind: Joi.valid('p', 'q').required(), n: Joi.number().when('kind', { is: 'p', then: Joi.required(), otherwise: Joi.forbidden() }) }), [{ kind: 'p', n: 1 }, { kind: 'q' }], [{ kind: 'p' }, { kind: 'q', n: 1 }]],
    ['one shape or another by a key', Joi.alternatives().conditional('.kind', { switch: [{ is: 'p', then: Joi.object({ kind: Joi.any(), p: Joi.number().required() }) }, { is: 'q', then: Joi.object({ kind: Joi.any() }) }] }), [{ kind: 'p', p: 1 }, { kind: 'q' }], [{ kind: 'p' }, { kind: 'r' }]],
    ['one shape where a key is there, else another', Joi.alternatives().conditional('.s', { is: Joi.exist(), then: Joi.object({ s: Joi.string() }), otherwise: Joi.object({ t: Joi.number() }) }), [{ s: 'a' }, { t: 1 }], [{ s: 1 }, { t: 'a' }]],
  ])('%s', (_, joi, fine, refused) => {
    const valid = accepts(jsonSchema(joi));
    for (const value of fine) {
      expect(joi.validate(value, { convert: false }).error).toBeUndefined();
      expect(valid(value)).toBe('');
    }
    for (const value of refused) {
      expect(joi.validate(value, { convert: false }).error, JSON.stringify(value)).toBeDefined();
      expect(valid(value), JSON.stringify(value)).not.toBe('');
    }
  }); // prettier-ignore

  // A limit that became narrower refuses files that people have; read what has changed.
  it.each(FILE_FAMILIES)('what a file of the family %s may hold is what it was', async (family) => {
    // A job holds the machine as it was, whose family is looked at by itself.
    const rows = rowsOf(fileSchema(family)).filter((row) => !row.startsWith('/before/'));
    await expect(rows.join('\n')).toMatchFileSnapshot(`schemas/${family}.txt`);
  });

  it('the written schema and page are those of now', () => {
    const written: unknown = JSON.parse(readFileSync(join(root, 'docs/machine.schema.json'), 'utf8'));
    expect(written).toEqual(JSON.parse(JSON.stringify(fileSchema('machine'))));
    expect(readFileSync(join(root, 'docs/machine-file.md'), 'utf8')).toContain('`frame.screws.pitch_mm`');
  });
});

describe('the OpenAPI document', () => {
  const document = JSON.parse(JSON.stringify(openApi())) as {
    paths: Record<string, Record<string, { operationId: string; responses: Record<string, { content?: Record<string, { schema?: unknown }> }> }>>;
  }; // prettier-ignore

  it('is one, as a validator of others finds', async () => {
    const { valid, errors } = await new Validator().validate(document);
    expect(errors ?? '').toEqual('');
    expect(valid).toBe(true);
  });

  it('names every operation once, and each answer in JSON has a schema that a validator takes', () => {
    const all = Object.values(document.paths).flatMap((path) => Object.values(path));
    const ids = all.map(({ operationId }) => operationId);
    expect(new Set(ids).size).toBe(ids.length);
    for (const { operationId, responses } of all)
      for (const { content } of Object.values(responses)) {
        const schema = content?.['application/json']?.schema;
        if (content?.['application/json']) expect(schema, operationId).toBeDefined();
        if (schema && !JSON.stringify(schema).includes('$ref')) expect(() => ajv.compile(schema as object)).not.toThrow();
      }
  }); // prettier-ignore
});
