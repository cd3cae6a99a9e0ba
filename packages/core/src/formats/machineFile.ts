import { writeYaml } from './writeYaml';
import { type Machine, MACHINE_VERSION, machineSchema } from '../machine/machine';
import { type Read, readYaml } from './readYaml';

const FAMILY = /^jolly:\s*machine\/(\d+)/m;

/** Reads a machine file. A file of a newer version says so instead of listing what it does not understand. */
export function readMachineFile(text: string): Read<Machine> {
  const version = FAMILY.exec(text.slice(0, 10_000))?.[1];
  if (version !== undefined && Number(version) > 1) {
    return {
      problems: [
        {
          line: 1,
          column: 1,
          path: 'jolly',
          message: `this file is machine/${version}; this program reads ${MACHINE_VERSION}. Update Jolly Cog to open it`,
        },
      ],
    };
  }
  return readYaml<Machine>(text, machineSchema());
}

/** Writes a machine file; reading it back gives the same machine. */
export function writeMachineFile(machine: Machine): string {
  return writeYaml(machine, 110);
}
