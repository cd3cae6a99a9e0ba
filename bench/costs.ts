import { join } from 'node:path';
import type { Catalogue } from '@jolly/core/catalogue/catalogue';
import type { Facts } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { buildImage } from '../packages/server/src/build/buildImage';
import { buildInput } from '../packages/server/src/build/buildInput';
import type { Compiler } from '../packages/server/src/build/compiler';
import { measureCosts } from '../packages/server/src/build/measureCosts';
import { type ByteStore, folderStore } from '../packages/server/src/files/byteStore';
import { loadKitSources } from '../packages/server/src/files/catalogue';
import { ploverOnF8 } from '../packages/server/test/fixtures/ploverOnF8';
import { ms, timed } from './figures';

/** As many features as the budget speaks of, and how many cold builds they may take. */
const BUDGET = { features: 40, coldBuilds: 12 };

/** Every feature's cost measured from nothing, against a cold build in the same run; and what each takes on both boards. */
export async function costsBench(
  {
    compiler,
    root,
    scratch,
    catalogue,
  }: { compiler: Compiler; root: string; scratch: string; catalogue: Catalogue },
  factsOf: (machine: Machine) => Facts,
  plover: Machine,
  say: (what: string, figure: string) => void,
): Promise<void> {
  const sources = await loadKitSources(root, 'lantern');
  const builder = (cache: ByteStore) => async (facts: Facts) => {
    const outcome = await buildImage(buildInput(facts, derive(facts), sources), {
      compiler, cache, owner: 'bench', signal: new AbortController().signal, progress: () => undefined,
    }); // prettier-ignore
    return 'failed' in outcome ? { failed: outcome.failed.message } : outcome;
  };
  const facts = factsOf(plover);
  await builder(folderStore(join(scratch, 'costs-first')))(facts);
  const cold = await timed(() => builder(folderStore(join(scratch, 'costs-cold')))(facts));
  const build = builder(folderStore(join(scratch, 'costs')));
  const run = await timed(() => measureCosts(facts, { catalogue, build }));
  if ('failed' in run.result) throw new Error(run.result.failed);
  const measured = run.result.features.length + run.result.bound.length;
  const builds = run.took / cold.took;
  say(`costs of ${measured} features, from nothing`, `${ms(run.took)} = ${builds.toFixed(1)} cold builds; of ${BUDGET.features}: ${((builds * BUDGET.features) / measured).toFixed(1)} (budget ${BUDGET.coldBuilds})`); // prettier-ignore
  const again = await timed(() => measureCosts(facts, { catalogue, build }));
  say('costs again, nothing changed', ms(again.took));
  const old = await measureCosts(factsOf(await ploverOnF8(root)), { catalogue, build });
  if ('failed' in old) throw new Error(old.failed);
  say('everything that is on, Alder A32 and Fenwick F8', `${run.result.whole.flash} and ${old.whole.flash} bytes of flash`); // prettier-ignore
  for (const { key, on, cost } of run.result.features) {
    const there = old.features.find((feature) => feature.key === key)?.cost;
    say(`${on ? 'on ' : 'off'} ${key}`, `${cost.flash} / ${cost.ram}${there ? `, F8 ${there.flash} / ${there.ram}` : ''} bytes of flash / RAM`); // prettier-ignore
  }
}
