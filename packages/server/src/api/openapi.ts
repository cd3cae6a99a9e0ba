import joiToJson from 'joi-to-json';
import type { Endpoint } from './endpoint';

/** The OpenAPI document of all endpoints, from the schemas that guard them. */
export function openApi(endpoints: Endpoint[]): unknown {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const endpoint of endpoints) {
    paths[`/api${endpoint.path}`] = {
      ...paths[`/api${endpoint.path}`],
      [endpoint.method]: {
        summary: endpoint.summary,
        parameters: [...endpoint.path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
          name,
          in: 'path',
          required: true,
          schema: { type: 'string' },
        })),
        ...(endpoint.body && {
          requestBody: {
            required: true,
            content: { 'application/json': { schema: joiToJson(endpoint.body, 'open-api') } },
          },
        }),
        responses: {
          '200': { description: 'Done' },
          default: { description: 'An error: {error: {code, message, path?}}' },
        },
      },
    };
  }
  return { openapi: '3.0.3', info: { title: 'Jolly Cog', version: '0.1.0' }, paths };
}
