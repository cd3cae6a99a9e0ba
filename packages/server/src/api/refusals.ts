import { Refusal } from '@jolly/contract/refusal';

/** What a layer below says when it cannot go on, and what is answered then. */
interface Thrown extends Error {
  status?: number;
  type?: string;
  code?: string;
  limit?: number;
  length?: number;
}

const DISK_FULL = new Refusal(
  'disk-full',
  'the disk that holds the data is full: free some room, then do it again. Nothing was changed',
);
const BAD_TEXT = new Refusal('bad-text', 'a text holds a character that cannot be stored');

/** By the type that Express and its readers of bodies give. */
const BY_TYPE: Record<string, (error: Thrown) => Refusal> = {
  'entity.too.large': ({ limit = 0, length }) =>
    new Refusal(
      'too-large',
      `this has ${length ?? 'too many'} bytes; at most ${limit} are taken (${Math.round(limit / 2 ** 20)} MB)`,
    ),
  'entity.parse.failed': ({ message }) => new Refusal('bad-json', `the body is no JSON: ${message}`),
  'charset.unsupported': () =>
    new Refusal('bad-charset', 'text must be sent as UTF-8; another charset is named'),
  'encoding.unsupported': () =>
    new Refusal('bad-encoding', 'bodies may be sent as they are, or by gzip, deflate or br'),
};

/** By the code of the operating system or of the database (SQLSTATE). */
const BY_CODE: Record<string, Refusal> = {
  ENOSPC: DISK_FULL,
  EDQUOT: DISK_FULL,
  '53100': DISK_FULL,
  '22021': BAD_TEXT,
  '22P05': BAD_TEXT,
};

/** What an error means to whoever asked; undefined when it is a mistake of ours. */
export function refusalFor(error: Thrown): Refusal | undefined {
  if (error instanceof Refusal) return error;
  const typed = BY_TYPE[error.type ?? ''];
  if (typed) return typed(error);
  const coded = BY_CODE[error.code ?? ''];
  if (coded) return coded;
  const { status = 500 } = error;
  return status >= 400 && status < 500 ? new Refusal('bad-request', error.message) : undefined;
}
