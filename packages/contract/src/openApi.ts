import joiToJson from 'joi-to-json';
import { CONTRACT } from './contract';
import type { AnyEndpoint } from './endpoint';
import { COMMON, type RefusalCode, REFUSALS, refusalShape } from './refusal';
import type { Fields, Shape } from './shape';

const schemaOf = ({ joi }: Shape<unknown>): unknown => joiToJson(joi as never, 'open-api'); // It takes any schema.

const parameters = (fields: Fields, where: 'path' | 'query') =>
  Object.entries(fields).map(([name, field]) => ({
    name,
    in: where,
    required: !('optional' in field),
    schema: schemaOf(field),
  }));

function contentOf({ answer }: AnyEndpoint): Record<string, unknown> {
  if (answer.as === 'json') return { 'application/json': { schema: schemaOf(answer.shape) } };
  return answer.as === 'events' ? { 'text/event-stream': {} } : { 'application/octet-stream': {} };
}

function bodyOf({ body, takesBytes }: AnyEndpoint): Record<string, unknown> | undefined {
  if (takesBytes) return { 'application/octet-stream': { schema: { type: 'string', format: 'binary' } } };
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
    openapi: '3.0.3',
    info: { title: 'Jolly Cog', version: '0.1.0' },
    paths,
    components: { schemas: { Refusal: schemaOf(refusalShape) } },
  };
}
