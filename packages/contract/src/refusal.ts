import type { Finding } from '@jolly/core/finding/finding';
import { anything, count, list, object, type Of, optional, type Shape, text, type TypeOf } from './shape';
import { finding, storedMachine } from './machine';

/** Every reason for which the server refuses something, with the HTTP status it travels under. */
export const REFUSALS = {
  'bad-json': 400,
  'bad-request': 400,
  'bad-text': 400,
  'bad-value': 400,
  'wrong-host': 403,
  'wrong-origin': 403,
  'not-found': 404,
  busy: 409,
  'id-taken': 409,
  'job-open': 409,
  'no-card': 409,
  'no-image': 409,
  'no-way-back': 409,
  'not-running': 409,
  'nothing-to-do': 409,
  'other-board': 409,
  stale: 409,
  stopped: 409,
  'too-many': 409,
  'too-large': 413,
  'bad-charset': 415,
  'bad-encoding': 415,
  'bad-file': 422,
  impossible: 422,
  'not-built': 422,
  'not-so': 422,
  'no-room': 422,
  'too-hard': 422,
  'unknown-id': 422,
  internal: 500,
  ending: 503,
  starting: 503,
  'disk-full': 507,
} as const;
export type RefusalCode = keyof typeof REFUSALS;

/** Refusals that any request may meet, whatever it asks for. */
export const COMMON = [
  'bad-json',
  'bad-request',
  'bad-text',
  'bad-value',
  'wrong-host',
  'wrong-origin',
  'not-found',
  'too-large',
  'bad-charset',
  'bad-encoding',
  'internal',
  'disk-full',
] as const satisfies RefusalCode[];

/** What a refusal may bring along: where it lies, and what whoever asked needs to go on. */
const more = {
  path: optional(text),
  problems: optional(list(anything)),
  findings: optional(list<Finding>(finding)),
  /** What stands there now, and what led to it, when a save came too late. */
  version: optional(count),
  current: optional(storedMachine),
  changes: optional(list(text)),
};
export type More = Of<typeof more>;

/** An answer that is not a success: what went wrong in a word, in a sentence, and where. */
export class Refusal extends Error {
  constructor(
    readonly code: RefusalCode,
    message: string,
    readonly more: More = {},
  ) {
    super(message);
  }

  get status(): number {
    return REFUSALS[this.code];
  }
}

export const notFound = (what: string, id: string): Refusal =>
  new Refusal('not-found', `there is no ${what} "${id}"`);

const isCode = (code: string): code is RefusalCode => Object.hasOwn(REFUSALS, code);

/** How a refusal travels. */
export const refusalShape = object({ error: object({ code: text, message: text, ...more }) });

export const written = ({ code, message, more: rest }: Refusal): TypeOf<typeof refusalShape> => ({
  error: { code, message, ...rest },
});

/** Reads a refusal out of an answer; undefined when the answer is none that this contract knows. */
export function readRefusal(answer: unknown): Refusal | undefined {
  if (refusalShape.joi.required().validate(answer, READING).error) return undefined;
  const { code, message, ...rest } = (answer as TypeOf<typeof refusalShape>).error; // checked in the line above
  return isCode(code) ? new Refusal(code, message, rest) : undefined;
}

/** What is read may hold more than is asked for: a newer server may say more. */
export const READING = { allowUnknown: true, convert: false } as const;

/** Whether an answer is what a shape lets through. @throws {Refusal} when it is not, naming where */
export function readAnswer<T>(shape: Shape<T>, answer: unknown, from: string): T {
  const { error } = shape.joi.required().validate(answer, READING);
  if (error)
    throw new Refusal('internal', `the answer of ${from} is not what it should be: ${error.message}`);
  return answer as T; // checked in the line above
}
