import { Refusal } from '@jolly/contract/refusal';
import type { Read } from '@jolly/core/formats/readYaml';

/** What was read out of a file, when all of it could be. @throws {Refusal} bad-file, naming the first place that cannot be read */
export function readWhole<T>(read: Read<T>): T {
  if ('value' in read) return read.value;
  const { problems } = read;
  const [{ line, column, message, path }] = problems;
  throw new Refusal('bad-file', `line ${line}, column ${column}: ${message}`, { path, problems });
}
