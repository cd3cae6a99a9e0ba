import { join } from 'node:path';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { afterAll, describe, expect, it } from 'vitest';
import { type Facts, resolve } from '@jolly/core/machine/facts';
import { derive } from '@jolly/core/settings/derive';
import { buildImage } from '../src/build/buildImage';
import { buildInput } from '../src/build/buildInput';
import { startCompiler } from '../src/build/compiler';
import { fitImage } from '../src/build/fitImage';
import { folderStore } from '../src/files/byteStore';
import { loadCatalogue, loadDemoMachine, loadKitSources } from '../src/files/catalogue';
import { paths } from '../src/paths';
import { root, throwAway } from './fixtures/server';

const data = mkdtempSync(join(tmpdir(), 'jolly-fit-'));
const compiler = startCompiler(paths(root, data).compilerWorker);
afterAll(() => {
  compiler.close();
  throwAway(data);
});

/** Plover on a chip of its kind with less room; what was built once is not compiled again. */
async function plover(room: { flash?: number; ram?: number }) {
  const catalogue = await loadCatalogue(root);
  const resolved = resolve(await loadDemoMachine(root, 'plover'), catalogue);
  if ('problems' in resolved) throw new Error(resolved.problems[0].message);
  const { chip } = resolved.facts;
  const facts: Facts = { ...resolved.facts, chip: { ...chip, flash_bytes: room.flash ?? chip.flash_bytes, ram_bytes: room.ram ?? chip.ram_bytes } }; // prettier-ignore
  const sources = await loadKitSources(root, facts.kit.id);
  const build = async (given: Facts) => {
    const outcome = await buildImage(buildInput(given, derive(given), sources), {
      compiler, cache: folderStore(join(data, 'objects')), owner: 'fit', signal: new AbortController().signal, progress: () => undefined,
    }); // prettier-ignore
    return 'failed' in outcome ? { failed: outcome.failed.message } : { sizes: outcome.sizes };
  };
  return { facts, catalogue, build };
}
const nothing: ReadonlySet<string> = new Set();
const alike: ReadonlyMap<string, number> = new Map();

describe('what to leave out so that an image fits', () => {
  it('is measured by building without each, chosen by worth, and really built, with room to spare', async () => {
    const work = await plover({ flash: 40_000 });
    const fit = await fitImage({ ...work, keep: nothing, worth: alike });
    if ('cannot' in fit) throw new Error(fit.cannot);
    expect(fit.before.flashBytes).toBeGreaterThan(40_000);
    expect(fit.after.flashBytes).toBeLessThanOrEqual(40_000 * 0.98);
    expect(fit.dropped.length).toBeGreaterThan(0);
    // Guards are no features; nothing that protects is ever offered.
    const named = [...fit.dropped, ...fit.kept, ...fit.bound].map(({ key }) => key);
    expect(named.filter((key) => key.startsWith('guard.'))).toEqual([]);
    for (const { flash, without } of fit.dropped) {
      expect(flash).toBeGreaterThan(0);
      expect(without).not.toBe('');
    }
  }, 240_000);
  it('keeps what must be kept and what is worth more; what another needs goes only with it', async () => {
    const work = await plover({ flash: 40_000 });
    const worth = new Map([['map.on', 100]]);
    const fit = await fitImage({ ...work, keep: new Set(['card.print']), worth });
    if ('cannot' in fit) throw new Error(fit.cannot);
    expect(fit.kept.map(({ key }) => key)).toContain('map.on');
    expect(fit.bound).toContainEqual(expect.objectContaining({ key: 'card.print', because: 'it shall be kept' })); // prettier-ignore
    const dropped = fit.dropped.map(({ key }) => key);
    if (dropped.includes('pause.on')) expect(dropped).toContain('change.on');
  }, 240_000);
  it('says what is missing where nothing helps', async () => {
    const work = await plover({ flash: 20_000 });
    const fit = await fitImage({ ...work, keep: nothing, worth: alike });
    expect(fit).toMatchObject({ cannot: expect.stringMatching(/bytes of flash are missing even without/) as unknown }); // prettier-ignore
  }, 240_000);
});
