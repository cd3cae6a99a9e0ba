import type { Contract, EndpointName } from '@jolly/contract/contract';
import type { AnswerOf, BodyOf, ParamsOf } from '@jolly/contract/endpoint';
import type { Writable } from 'node:stream';

/** Bytes that are sent as they are. */
export interface Sent {
  type: string;
  bytes: Uint8Array | string;
  /** Instead of bytes: writes them piece by piece. */
  write?: (to: Writable) => Promise<void>;
  /** The name they are saved under; without one they are shown. */
  saveAs?: string;
  cache?: string;
}
/** News that is sent until it is over; the returned function is called when nobody listens any more. */
export type Stream = (send: (event: string, data: unknown) => void, end: () => void) => () => void;

type As<E> = E extends { answer: { as: infer A } } ? A : never;
type Answered<E> = As<E> extends 'bytes' ? Sent : As<E> extends 'events' ? Stream : AnswerOf<E>;
type Body<E> = BodyOf<E> extends Blob ? Uint8Array : BodyOf<E>;
interface Asked<E> {
  params: ParamsOf<E>;
  body: Body<E>;
}
export type Handlers = {
  [N in EndpointName]: (asked: Asked<Contract[N]>) => Promise<Answered<Contract[N]>> | Answered<Contract[N]>;
};

/** The handlers of one file of the contract. */
export type Of<G> = Pick<Handlers, keyof G & EndpointName>;
