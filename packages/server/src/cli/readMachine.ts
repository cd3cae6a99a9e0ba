import { readFile } from 'node:fs/promises';
import { readMachineFile } from '@jolly/core/formats/machineFile';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { loadCatalogue } from '../files/catalogue';

/** Reads a machine file named on the command line; problems come back as lines to print. */
export async function readMachine(
  root: string,
  path: string,
): Promise<{ facts: Facts } | { problems: string[] }> {
  const text = await readFile(path, 'utf8').catch((error: Error) => error);
  if (text instanceof Error) return { problems: [`${path || 'FILE'}: ${text.message}`] };
  const read = readMachineFile(text);
  if ('problems' in read)
    return {
      problems: read.problems.map(
        (problem) => `${path}:${problem.line}:${problem.column}: ${problem.message}`,
      ),
    };
  const resolved = resolve(read.value, await loadCatalogue(root));
  if ('problems' in resolved)
    return { problems: resolved.problems.map((problem) => `${path}: ${problem.path}: ${problem.message}`) };
  return resolved;
}
