import { dryHoming, type HomingLeg, stackRun, type StackRun } from '@jolly/bench';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Machine } from '@jolly/core/machine/machine';
import { resolve } from '@jolly/core/machine/facts';
import { expose } from 'comlink';

/** Runs an image on the bench away from the interface. */
const worker = {
  async dryHoming(machine: Machine, catalogue: Catalogue, image: Uint8Array): Promise<HomingLeg[]> {
    const resolved = resolve(machine, catalogue);
    return 'facts' in resolved ? dryHoming(resolved.facts, image) : [];
  },
  async stackRun(machine: Machine, catalogue: Catalogue, image: Uint8Array): Promise<StackRun | undefined> {
    const resolved = resolve(machine, catalogue);
    return 'facts' in resolved ? stackRun(resolved.facts, image) : undefined;
  },
};
export type DryRunWorker = typeof worker;

expose(worker);
