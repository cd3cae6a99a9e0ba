import {
  type Catalogue,
  check,
  derive,
  type Finding,
  type GeneratedFile,
  type Machine,
  type Problem,
  resolve,
  type Setting,
  write,
} from '@jolly/core';
import { expose } from 'comlink';

/** What follows from a machine: computed away from the interface, so that typing never waits for it. */
export type Consequences =
  { settings: Setting[]; findings: Finding[]; files: GeneratedFile[] } | { problems: Problem[] };

let catalogue: Catalogue | undefined;

const worker = {
  setCatalogue(given: Catalogue): void {
    catalogue = given;
  },
  consequences(machine: Machine): Consequences {
    const resolved = resolve(machine, catalogue!);
    if ('problems' in resolved) return resolved;
    const settings = derive(resolved.facts);
    return {
      settings: [...settings.values()],
      findings: check(resolved.facts, settings),
      files: write(resolved.facts, settings),
    };
  },
};
export type CoreWorker = typeof worker;

expose(worker);
