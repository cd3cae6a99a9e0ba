import { join } from 'node:path';
import { writeMachineFile } from '@jolly/core/formats/machineFile';
import { describe, expect, it } from 'vitest';
import { BRIM } from '@jolly/core/build/fitFindings';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import type { Machine } from '@jolly/core/machine/machine';
import { derive } from '@jolly/core/settings/derive';
import { buildImage } from '../src/build/buildImage';
import { buildInput } from '../src/build/buildInput';
import { compilerForTests } from './fixtures/compilerForTests';
import { fitImage } from '../src/build/fitImage';
import { measureCosts } from '../src/build/measureCosts';
import { folderStore } from '../src/files/byteStore';
import { loadCatalogue, loadKitSources } from '../src/files/catalogue';
import { loadDemo } from '../src/demo/demoFiles';
import { paths } from '../src/paths';
import { ploverOnF8 } from './fixtures/ploverOnF8';
import { followed, root, serverForTests } from './fixtures/server';

const server = serverForTests();
const { call } = server;
const at = paths(root, join(root, '.cache'));
const compiler = compilerForTests();

/** What a machine is fitted with; what was built once is not compiled again. */
async function fitting(machine: Machine, flash?: number) {
  const catalogue = await loadCatalogue(root);
  const resolved = resolve(machine, catalogue);
  if ('problems' in resolved) throw new Error(resolved.problems[0].message);
  const { chip } = resolved.facts;
  const facts: Facts = { ...resolved.facts, chip: { ...chip, flash_bytes: flash ?? chip.flash_bytes } };
  const sources = await loadKitSources(root, facts.kit.id);
  const build = async (given: Facts) => {
    const outcome = await buildImage(buildInput(given, derive(given), sources), {
      compiler, cache: folderStore(at.objects), owner: 'fit', signal: new AbortController().signal, progress: () => undefined,
    }); // prettier-ignore
    return 'failed' in outcome ? { failed: outcome.failed.message } : outcome;
  };
  return { facts, catalogue, build };
}
const nothing: ReadonlySet<string> = new Set();
const asTheKit: ReadonlyMap<string, number> = new Map();
const keysOf = (features: readonly { key: string }[]) => features.map(({ key }) => key);

describe('what Plover wishes for, on its old board and its new one', () => {
  it('overflows the Fenwick F8 by 5 to 15 %, and fills about half of the Alder A32', async () => {
    const old = await fitting(await ploverOnF8());
    const sized = await old.build(old.facts);
    if ('failed' in sized) throw new Error(sized.failed);
    const over = sized.sizes.flashBytes / old.facts.chip.flash_bytes - 1;
    expect(over).toBeGreaterThan(0.05);
    expect(over).toBeLessThan(0.15);
    const plover = (await loadDemo(root)).find(({ machine }) => machine.id === 'plover')!;
    const next = await fitting(plover.machine);
    const built = await next.build(next.facts);
    if ('failed' in built) throw new Error(built.failed);
    const share = built.sizes.flashBytes / next.facts.chip.flash_bytes;
    expect(share).toBeGreaterThan(0.4);
    expect(share).toBeLessThan(0.6);
  }, 600_000);

  it('is made to fit the F8 with probe, map and guards, really built, clear of the brim', async () => {
    const work = await fitting(await ploverOnF8());
    const fit = await fitImage({ ...work, keep: new Set(['probe.kind', 'map.on']), worth: asTheKit });
    if ('cannot' in fit) throw new Error(fit.cannot);
    expect(fit.before.flash).toBeGreaterThan(work.facts.chip.flash_bytes);
    expect(fit.after.flash).toBeLessThanOrEqual(work.facts.chip.flash_bytes * (1 - BRIM));
    expect(keysOf(fit.kept)).toContain('map.on');
    expect(fit.dropped.length).toBeGreaterThan(0);
    // The compiler is asked to try harder before anything is lost.
    expect(fit.harder).toBe(true);
    // Guards are no features; nothing that protects is ever offered.
    const named = keysOf([...fit.dropped, ...fit.kept, ...fit.bound]);
    expect(named.filter((key) => key.startsWith('guard.') || key === 'bed.heated')).toEqual([]);
    for (const { cost, without, lost } of fit.dropped) {
      expect(cost.flash + cost.ram).toBeGreaterThan(0);
      expect(without).not.toBe('');
      expect(lost).toBeDefined();
    }
  }, 600_000);

  it('is made to fit the F8 with filament sensor and probe', async () => {
    const wished = { value: true, source: 'override' as const, because: 'wished for' };
    const work = await fitting({ ...(await ploverOnF8()), settings: { 'filament.sensor': wished } });
    const fit = await fitImage({ ...work, keep: new Set(['filament.sensor']), worth: asTheKit });
    if ('cannot' in fit) throw new Error(fit.cannot);
    expect(keysOf([...fit.kept, ...fit.bound])).toContain('filament.sensor');
    expect(fit.after.flash).toBeLessThanOrEqual(work.facts.chip.flash_bytes * (1 - BRIM));
  }, 600_000);
});

describe('what to leave out so that an image fits', () => {
  it('keeps what must be kept and what is worth more; what another needs goes only with it', async () => {
    const work = await fitting(await ploverOnF8(), 35_000);
    const fit = await fitImage({ ...work, keep: new Set(['arcs.on', 'card.print']), worth: new Map([['tram.on', 100]]) }); // prettier-ignore
    if ('cannot' in fit) throw new Error(fit.cannot);
    expect(keysOf(fit.kept)).toEqual(expect.arrayContaining(['tram.on', 'card.print']));
    const dropped = keysOf(fit.dropped);
    expect(dropped.length).toBeGreaterThan(2);
    if (dropped.includes('pause.on')) expect(dropped).toContain('change.on');
  }, 600_000);
  it('says what is missing where nothing helps', async () => {
    const work = await fitting(await ploverOnF8(), 20_000);
    const fit = await fitImage({ ...work, keep: nothing, worth: asTheKit });
    expect(fit).toMatchObject({ cannot: expect.stringMatching(/bytes of flash are missing even without/) as unknown }); // prettier-ignore
  }, 600_000);
});

describe('what everything takes', () => {
  it('is measured of what is on and of what could be, with what is lost in use', async () => {
    const work = await fitting(await ploverOnF8());
    const costs = await measureCosts(work.facts, work);
    if ('failed' in costs) throw new Error(costs.failed);
    const of = (key: string) => costs.features.find((feature) => feature.key === key);
    expect(of('store.report')?.lost.commands).toContain('M503, the settings report');
    expect(of('map.on')?.cost.flash).toBeGreaterThan(1000);
    expect(of('pause.on')?.neededBy).toEqual(['change.on']);
    expect(of('arcs.on')).toMatchObject({ on: false, other: true });
    expect(of('arcs.on')?.cost.flash).toBeGreaterThan(200);
    // A probe that Z is homed with cannot be left out; the finding that says so is told.
    expect(costs.bound.find(({ key }) => key === 'probe.kind')?.because).toMatch(/probe/);
    expect(costs.effort?.saves.flash).toBeGreaterThan(500);
    const { plain = 0, harder = 0 } = costs.effort?.linkMs ?? {};
    expect(plain).toBeGreaterThan(0);
    expect(harder).toBeGreaterThan(0);
  }, 600_000);

  it('is measured in the background, told as it goes, cancelled, and taken up again after a restart', async () => {
    const file = writeMachineFile({ ...(await ploverOnF8()), id: 'plover-f8' });
    expect((await call('POST', '/machines', { file })).status).toBe(200);
    const costs = '/machines/plover-f8/costs';
    expect((await call('GET', costs)).body).toEqual({ run: null });
    await call('POST', costs);
    const cancelled = await call('POST', `${costs}/cancel`);
    expect(cancelled.body.state).toBe('cancelled');
    expect((await call('POST', `${costs}/cancel`)).status).toBe(409);
    expect((await call('POST', costs)).body.state).toBe('running');
    await server.restart();
    expect((await call('GET', costs)).body.run.state).toBe('running');
    // It is taken up when the compiler is warm; whoever follows it hears of it then.
    await followed(server.address(), `${costs}/events`);
    const { run } = (await call('GET', costs)).body;
    expect(run.state).toBe('done');
    expect(run.costs.features.length).toBeGreaterThan(20);
  }, 600_000);
});
