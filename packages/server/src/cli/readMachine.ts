import { readMachineFile } from '@jolly/core/formats/machineFile';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { loadCatalogue } from '../files/catalogue';
import { badInput, readText } from './command';

/** Reads a machine file named on the command line. @throws {BadInput} with every problem and its place, a line each */
export async function readMachine(root: string, path: string): Promise<Facts> {
  const read = readMachineFile(await readText(path));
  if ('problems' in read)
    return badInput(
      read.problems.map(({ line, column, message }) => `${path}:${line}:${column}: ${message}`).join('\n'),
    );
  const resolved = resolve(read.value, await loadCatalogue(root));
  if ('problems' in resolved)
    return badInput(
      resolved.problems.map((problem) => `${path}: ${problem.path}: ${problem.message}`).join('\n'),
    );
  return resolved.facts;
}
