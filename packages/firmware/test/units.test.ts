import { cDefine, cInteger } from '@jolly/core/build/cText';
import type { CFile } from '@jolly/core/build/generatedFile';
import { derive } from '@jolly/core/settings/derive';
import { describe, expect, it } from 'vitest';
import { buildImage } from '../../server/src/build/buildImage';
import { buildInput } from '../../server/src/build/buildInput';
import { unitsOf } from '../../server/src/build/units';
import type { ByteStore } from '../../server/src/files/byteStore';
import { loadKitSources } from '../../server/src/files/catalogue';
import { demoFacts, objects, own, root } from './fixtures/builtMachine';
import { compilerForTests, ownCompiler } from '../../server/test/fixtures/compilerForTests';

const compiler = compilerForTests();

const made = (x: number): CFile => ({ path: 'made.h', lines: [{ text: cDefine('X', cInteger(x)) }] });
/** Two sources: one reads a header of the kit that reads a made one, the other reads nothing. */
const kit = new Map([
  ['a.c', '#include "deep/one.h"\nint a;\n'],
  ['b.c', '#include <stdint.h>\nint b;\n'],
  ['deep/one.h', '#include "made.h"\n  #  include "deep/one.h"\n#include "gone.h"\n'],
]);
const unitsWith = (x: number, sources: ReadonlyMap<string, string> = kit) =>
  unitsOf({ sources, generated: [made(x)], effort: 'by-source' });
const keysOf = (units: ReturnType<typeof unitsOf>) =>
  Object.fromEntries(units.map(({ source, key }) => [source, key]));

describe('what is compiled for an image', () => {
  it('comes with all that it reads, through others too, and with nothing else', () => {
    const read = unitsWith(1).map(({ source, object, files }) => [source, object, Object.keys(files)]);
    expect(read).toEqual([
      ['a.c', 'a.o', ['a.c', 'deep/one.h', 'made.h']],
      ['b.c', 'b.o', ['b.c']],
    ]);
  });
  it('is compiled anew when anything that it reads is another, and only then', () => {
    const [was, is] = [keysOf(unitsWith(1)), keysOf(unitsWith(2))];
    expect(is['a.c']).not.toBe(was['a.c']);
    expect(is['b.c']).toBe(was['b.c']);
    const edited = new Map([...kit, ['b.c', 'int b = 1;\n']]);
    const then = keysOf(unitsWith(1, edited));
    expect(then['a.c']).toBe(was['a.c']);
    expect(then['b.c']).not.toBe(was['b.c']);
  });
  it('is compiled anew with another effort', () => {
    const harder = unitsOf({
      sources: kit,
      generated: [made(1)],
      effort: 'across-sources',
    });
    expect(keysOf(harder)['b.c']).not.toBe(keysOf(unitsWith(1))['b.c']);
  });
});

describe('an image that was built before', () => {
  it('is built again from what was linked: no object is read, and the compiler may be gone', async () => {
    const facts = await demoFacts('plover', own('park.lift', 17));
    const input = buildInput(facts, derive(facts), await loadKitSources(root, 'lantern'));
    const keys = new Set(unitsOf(input).map(({ key }) => key));
    const asked = { owner: 'again', signal: new AbortController().signal, progress: () => undefined };
    const first = await buildImage(input, { ...asked, compiler, cache: objects });
    const gone = ownCompiler();
    gone.close();
    const withoutObjects: ByteStore = {
      ...objects,
      get: (key) => (keys.has(key) ? Promise.resolve(undefined) : objects.get(key)),
    };
    const again = await buildImage(input, { ...asked, compiler: gone, cache: withoutObjects });
    if ('failed' in first || 'failed' in again) throw new Error('it does not build');
    expect(again.compiled).toBe(0);
    expect(again.buildId).toBe(first.buildId);
    expect(Buffer.compare(again.image, first.image)).toBe(0);
    expect(again.sizes).toEqual(first.sizes);
    // What linking took is what it took when it was done.
    expect(first.linkMs).toBeGreaterThan(0);
    expect(again.linkMs).toBe(first.linkMs);
  });
  it('is compiled where what it was linked to is damaged or gone', async () => {
    const facts = await demoFacts('plover', own('park.lift', 17));
    const input = buildInput(facts, derive(facts), await loadKitSources(root, 'lantern'));
    const keys = new Set(unitsOf(input).map(({ key }) => key));
    const onlyObjects: ByteStore = {
      ...objects,
      get: (key) => (keys.has(key) ? objects.get(key) : Promise.resolve(undefined)),
      put: () => Promise.resolve(),
    };
    const made = await buildImage(input, {
      compiler, cache: onlyObjects, owner: 'again', signal: new AbortController().signal, progress: () => undefined,
    }); // prettier-ignore
    if ('failed' in made) throw new Error(made.failed.message);
    expect(made.compiled).toBe(0);
    expect(made.log).toContain('linked');
  });
});
