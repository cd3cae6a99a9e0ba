import { dryHoming, type HomingLeg } from '@jolly/bench';
import { type Catalogue, derive, type Machine, resolve } from '@jolly/core';
import { expose } from 'comlink';

/** Homes a machine on the bench's plant, away from the interface. */
const worker = {
  dryHoming(machine: Machine, catalogue: Catalogue): HomingLeg[] {
    const resolved = resolve(machine, catalogue);
    return 'facts' in resolved ? dryHoming(resolved.facts, derive(resolved.facts)) : [];
  },
};
export type DryRunWorker = typeof worker;

expose(worker);
