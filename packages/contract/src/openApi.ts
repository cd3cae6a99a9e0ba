import { CONTRACT } from './contract';
import type { AnyEndpoint } from './endpoint';
import { FILE_FAMILIES, type FileFamily } from './fileFamilies';
import { GUARDS } from './fileSchemas';
import { jsonSchema } from './jsonSchema';
import { COMMON, type RefusalCode, REFUSALS, refusalShape } from './refusal';
import type { Fields, Shape } from './shape';

const schemaOf = ({ joi }: Shape<unknown>): unknown => jsonSchema(joi);

const parameters = (fields: Fields, where: 'path' | 'query') =>
  Object.entries(fields).map(([name, field]) => ({
    name,
    in: where,
    required: !('optional' in field),
    schema: schemaOf(field),
  }));

function contentOf({ answer }: AnyEndpoint): Record<string, unknown> {
  if (answer.as === 'json') return { 'application/json': { schema: schemaOf(answer.shape) } };
  return answer.as === 'events'
    ? { 'text/event-stream': { schema: { type: 'string' } } }
    : { 'application/octet-stream': {} };
}

function bodyOf({ body, takesBytes }: AnyEndpoint): Record<string, unknown> | undefined {
  if (takesBytes) return { 'application/octet-stream': {} };
  return body && { 'application/json': { schema: schemaOf(body as Shape<unknown>) } }; // whatever its type
}

function describe(endpoint: AnyEndpoint): unknown {
  const body = bodyOf(endpoint);
  const codes = [...new Set<RefusalCode>([...endpoint.refusals, ...COMMON])];
  const statuses = [...new Set(codes.map((code) => REFUSALS[code]))];
  const refused = statuses.map((status) => [
    String(status),
    {
      description: codes.filter((code) => REFUSALS[code] === status).join(', '),
      content: { 'application/json': { schema: REFUSED } },
    },
  ]);
  return {
    summary: endpoint.summary,
    parameters: [
      ...parameters(endpoint.params as Fields, 'path'), // by `Endpoint`
      ...parameters(endpoint.query as Fields, 'query'),
    ],
    ...(body && { requestBody: { required: true, content: body } }),
    responses: {
      '200': { description: 'Done', content: contentOf(endpoint) },
      ...Object.fromEntries(refused),
    },
  };
}

/** What many answers share: files of the product are told whole, and a catalogue is lists of them. */
function components(): Record<string, unknown> {
  const families = FILE_FAMILIES.map(
    (family) => [capitalised(family), jsonSchema(GUARDS[family]())] as const,
  );
  const listOf = (family: FileFamily) => ({
    type: 'array',
    items: { $ref: `#/components/schemas/${capitalised(family)}` },
  });
  const lists = CATALOGUE.map((family) => [`${family}s`, listOf(family)] as const);
  return {
    Refusal: schemaOf(refusalShape),
    ...Object.fromEntries(families),
    Catalogue: {
      type: 'object',
      properties: Object.fromEntries(lists),
      required: lists.map(([name]) => name),
    },
  };
}

const CATALOGUE = ['board', 'chip', 'part', 'kit', 'dialect', 'programmer'] as const satisfies FileFamily[];
const capitalised = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

const REFUSED = { $ref: '#/components/schemas/Refusal' };

/** The OpenAPI document of all endpoints, from the shapes that guard them. */
export function openApi(): unknown {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const [name, endpoint] of Object.entries<AnyEndpoint>(CONTRACT))
    paths[`/api${endpoint.path}`] = {
      ...paths[`/api${endpoint.path}`],
      [endpoint.method]: { operationId: name, ...(describe(endpoint) as object) }, // an object, as it is written above
    };
  return {
    openapi: '3.1.0',
    jsonSchemaDialect: 'https://json-schema.org/draft/2020-12/schema',
    info: {
      title: 'Jolly Cog',
      version: '0.1.0',
      description: 'Everything the product does with its machines, as its own interface asks for it.',
    },
    servers: [{ url: '/', description: 'The Jolly Cog that tells this document' }],
    paths,
    components: { schemas: components() },
  };
}
