import type { RefusalCode } from './refusal';
import type { Fields, Of, Shape } from './shape';

/** What an endpoint answers with: a value as JSON, bytes, or news as server-sent events until it is over. */
export type Answer<T> = { as: 'json'; shape: Shape<T> } | { as: 'bytes' } | { as: 'events' };

/** One way into the server, as data: the server implements it, the client and the OpenAPI document are made from it. */
export interface Endpoint<P extends Fields, Q extends Fields, B, A extends Answer<unknown>> {
  method: 'get' | 'post' | 'put' | 'delete';
  /** With parameters written `{id}`. */
  path: string;
  summary: string;
  params: P;
  query: Q;
  body: Shape<B> | undefined;
  /** Takes bytes instead of JSON, at most so many. */
  takesBytes: number | undefined;
  answer: A;
  /** The refusals it may give beside those that any request may meet. */
  refusals: readonly RefusalCode[];
}

// The table of all endpoints holds endpoints of every type.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
export type AnyEndpoint = Endpoint<any, any, any, Answer<any>>;

/** What an endpoint is asked with in the path and behind the question mark. */
export type ParamsOf<E> =
  E extends Endpoint<infer P, infer Q, unknown, Answer<unknown>> ? Of<P> & Of<Q> : never;
export type BodyOf<E> =
  E extends Endpoint<Fields, Fields, infer B, Answer<unknown>>
    ? E['takesBytes'] extends number
      ? Blob
      : B
    : never;
export type AnswerOf<E> = E extends { answer: { as: 'json'; shape: Shape<infer T> } } ? T : Response;

type Names<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? Name | Names<Rest>
  : never;

interface Said<Path extends string, P, Q, B, A, Bytes> {
  summary: string;
  /** Every name in the path, and no other. */
  params?: P & Record<Names<Path>, Shape<string>> & Record<Exclude<keyof P, Names<Path>>, never>;
  query?: Q;
  body?: Shape<B>;
  takesBytes?: Bytes;
  answer: A;
  refusals?: readonly RefusalCode[];
}

/** Writes an endpoint down: `endpoint('get /machines/{id}', { … })`. */
export function endpoint<
  const Path extends string,
  A extends Answer<unknown>,
  P extends Fields = Record<never, never>,
  Q extends Fields = Record<never, never>,
  B = undefined,
  Bytes extends number | undefined = undefined,
>(
  where: `${Endpoint<P, Q, B, A>['method']} ${Path}`,
  said: Said<Path, P, Q, B, A, Bytes>,
): Endpoint<P, Q, B, A> & { takesBytes: Bytes } {
  const [method, path] = where.split(' ') as [Endpoint<P, Q, B, A>['method'], string]; // by its type
  return {
    method,
    path,
    summary: said.summary,
    params: said.params ?? ({} as P), // Without names in the path there are no parameters.
    query: said.query ?? ({} as Q),
    body: said.body,
    // True or left out, as its type says.
    takesBytes: said.takesBytes as Bytes,
    answer: said.answer,
    refusals: said.refusals ?? [],
  };
}

export const json = <T>(shape: Shape<T>): { as: 'json'; shape: Shape<T> } => ({ as: 'json', shape });
export const bytes: { as: 'bytes' } = { as: 'bytes' };
export const events: { as: 'events' } = { as: 'events' };
