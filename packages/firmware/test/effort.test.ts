import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { buildImage } from '../../server/src/build/buildImage';
import { buildInput } from '../../server/src/build/buildInput';
import { folderStore } from '../../server/src/files/byteStore';
import { loadKitSources } from '../../server/src/files/catalogue';
import { buildFor, demoFacts, flashed, own, root, talkTo } from './fixtures/builtMachine';
import { compilerForTests, ownCompiler } from '../../server/test/fixtures/compilerForTests';

const compiler = compilerForTests();

/** An image built with an effort, and a talk with the board it runs on. */
async function built(effort: string) {
  const facts = await demoFacts('plover', own('compiler.effort', effort));
  const outcome = await buildFor(facts, compiler);
  if ('failed' in outcome) throw new Error(outcome.failed.message);
  return { ...outcome, talk: await talkTo({ facts, state: flashed(facts, outcome), seed: 5 }) };
}

describe('more compiler effort', () => {
  it('makes a smaller image that does and says the same, with every guard still there to be looked for', async () => {
    const [plain, harder] = [await built('by-source'), await built('across-sources')];
    expect(harder.image.length).toBeLessThan(plain.image.length - 500);
    // Pieces are still led back to their sources, where a source has them to itself.
    const guard = harder.sizes.bySource.find(({ name }) => name === 'heat/guard.c');
    expect(guard?.bytes).toBeGreaterThan(100);
    expect(harder.map).toContain('guard_trips');
    for (const line of ['M503', 'M115', 'G28', 'state', 'G1 X40 Y30 F3000', 'state', 'M104 S999']) {
      const [one, other] = [plain, harder].map(({ talk }) => {
        const from = talk.heard.length;
        talk.ask(line);
        return talk.heard.slice(from).map((said) => said.replace(/build=\S+/, ''));
      });
      expect(other, line).toEqual(one);
      expect(one?.length, line).toBeGreaterThan(0);
    }
  }, 120_000);
});

describe('the same settings', () => {
  it.each(['by-source', 'across-sources'])(
    'give the same bytes from nothing as from what others compiled: %s',
    async (effort) => {
      const facts = await demoFacts('dunlin', own('compiler.effort', effort));
      const kept = await buildFor(facts, compiler);
      // Nothing is kept from before, and the compiler is another process.
      const [data, fresh] = [mkdtempSync(join(tmpdir(), 'jolly-fresh-')), ownCompiler()];
      try {
        const made = await buildImage(buildInput(facts, derive(facts), await loadKitSources(root, facts.kit.id)), {
          compiler: fresh, cache: folderStore(data), owner: 'fresh', signal: new AbortController().signal, progress: () => undefined,
        }); // prettier-ignore
        if ('failed' in kept || 'failed' in made) throw new Error('one of them failed');
        expect(made.compiled).toBeGreaterThan(40);
        expect(made.buildId).toBe(kept.buildId);
        expect(Buffer.compare(made.image, kept.image)).toBe(0);
      } finally {
        fresh.close();
        rmSync(data, { recursive: true, force: true });
      }
    },
    180_000,
  );
});
