import { CONTRACT, type Contract, type EndpointName } from './contract';
import type { AnswerOf, AnyEndpoint, BodyOf, ParamsOf } from './endpoint';
import { readAnswer, readRefusal, Refusal } from './refusal';

/** Sends a request to the server and answers what came back; throws when nothing did. */
export type Send = (path: string, options: RequestInit) => Promise<Response>;

type Asked<E> = keyof ParamsOf<E> extends never ? [] : [params: ParamsOf<E>];
type Given<E> = BodyOf<E> extends undefined ? [] : [body: BodyOf<E>];

/**
 * Every endpoint as a function of its parameters and its body. What it resolves to was checked against the contract;
 * it throws a `Refusal` when the server refuses, and when an answer is not what it should be. Bytes come as the response.
 */
export type Client = {
  [N in EndpointName]: (
    ...said: [...Asked<Contract[N]>, ...Given<Contract[N]>]
  ) => Promise<AnswerOf<Contract[N]>>;
};

/** The path and query of an endpoint, with its parameters in place. */
export function pathOf<N extends EndpointName>(name: N, params: ParamsOf<Contract[N]>): string {
  const { path, query }: AnyEndpoint = CONTRACT[name];
  const given = params as Record<string, string | undefined>; // Every parameter is text, by `params.ts`.
  const filled = path.replace(/\{(\w+)\}/g, (_all, key: string) => encodeURIComponent(given[key] ?? ''));
  // What an endpoint asks for is a record, by its type.
  const asked = Object.keys(query as object).flatMap((key) =>
    given[key] === undefined ? [] : [[key, given[key]]],
  );
  return `/api${filled}${asked.length > 0 ? `?${new URLSearchParams(asked).toString()}` : ''}`;
}

export function makeClient(send: Send): Client {
  const call = async (name: EndpointName, said: unknown[]): Promise<unknown> => {
    const endpoint: AnyEndpoint = CONTRACT[name];
    // A record of shapes, by its type.
    const takes = /\{/.test(endpoint.path) || Object.keys(endpoint.query as object).length > 0;
    const params = takes ? said[0] : {};
    // Only what the contract asks for is sent: a caller may be called back with more.
    const body = endpoint.body || endpoint.takesBytes ? said[takes ? 1 : 0] : undefined;
    const path = pathOf(name, params as never); // The client's type asks for the parameters of this endpoint.
    const reply = await send(path, { method: endpoint.method.toUpperCase(), ...asSent(body) });
    if (!reply.ok) throw await refusalOf(reply);
    if (endpoint.answer.as !== 'json') return reply;
    const answer: unknown = await reply.json().catch(() => undefined);
    return readAnswer(endpoint.answer.shape, answer, path);
  };
  const entries = Object.keys(CONTRACT).map((name) => [
    name,
    (...said: unknown[]) => call(name as EndpointName, said), // a key of the contract
  ]);
  return Object.fromEntries(entries) as Client; // one function for each key, by the line above
}

function asSent(body: unknown): RequestInit {
  if (body === undefined) return {};
  return body instanceof Blob
    ? { headers: { 'Content-Type': 'application/octet-stream' }, body }
    : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) };
}

/** What the server says instead of an answer; when it is nothing of ours, that it was none. */
async function refusalOf(reply: Response): Promise<Refusal> {
  const answer: unknown = await reply.json().catch(() => undefined);
  return readRefusal(answer) ?? new Refusal('internal', `the server answered ${reply.status}`);
}
