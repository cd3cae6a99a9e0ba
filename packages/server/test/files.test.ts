import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { errorCode } from '../src/data/errorCode';
import { clearLeftovers, leftoversIn } from '../src/data/leftovers';
import { folderStore, hashOf } from '../src/files/byteStore';
import { syncTree, writeDurably } from '../src/files/durable';
import { loadOwnDialect, ownDialectPath, saveOwnDialect, taught } from '../src/files/ownDialect';

const folders: string[] = [];
let folder: string;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'jolly-files-'));
  folders.push(folder);
});
afterAll(() => {
  for (const each of folders) rmSync(each, { recursive: true, force: true });
});
const bytesOf = (length: number, value = 7) => new Uint8Array(length).fill(value);
const keyOf = (name: string) => hashOf(name);
const everyFile = (from: string) =>
  readdirSync(from, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());

describe('a store of bytes', () => {
  it('gives back what was put, also to another process', async () => {
    const store = folderStore(folder);
    await store.put(keyOf('a'), bytesOf(5));
    expect(await store.get(keyOf('a'))).toEqual(bytesOf(5));
    expect(new Uint8Array((await folderStore(folder).get(keyOf('a')))!)).toEqual(bytesOf(5));
    expect(await store.get(keyOf('b'))).toBeUndefined();
    expect(await store.keys()).toEqual([keyOf('a')]);
  });
  it('holds the newest in memory and lets the oldest go', async () => {
    const store = folderStore(folder, 10);
    for (const name of ['a', 'b', 'c']) await store.put(keyOf(name), bytesOf(4));
    // What is still held is there without its file.
    await rm(folder, { recursive: true });
    expect(await store.get(keyOf('a'))).toBeUndefined();
    expect(await store.get(keyOf('b'))).toEqual(bytesOf(4));
    expect(await store.get(keyOf('c'))).toEqual(bytesOf(4));
  });
  it('counts what is put again once, and holds nothing that is more than all room', async () => {
    const store = folderStore(folder, 10);
    for (let turn = 0; turn < 5; turn += 1) await store.put(keyOf('a'), bytesOf(4, turn));
    await store.put(keyOf('b'), bytesOf(6));
    await rm(folder, { recursive: true });
    expect(await store.get(keyOf('a'))).toEqual(bytesOf(4, 4));
    await store.put(keyOf('big'), bytesOf(11));
    await rm(folder, { recursive: true });
    expect(await store.get(keyOf('big'))).toBeUndefined();
  });
  it('drops from disk and memory, and lists only what it wrote', async () => {
    const store = folderStore(folder);
    await store.put(keyOf('a'), bytesOf(3));
    await store.drop(keyOf('a'));
    expect(await store.get(keyOf('a'))).toBeUndefined();
    await store.drop(keyOf('a'));
    await mkdir(join(folder, 'ab'), { recursive: true });
    await writeFile(join(folder, 'ab', 'notes.txt'), '');
    expect(await store.keys()).toEqual([]);
    expect(await folderStore(join(folder, 'nowhere')).keys()).toEqual([]);
  });
});

describe('a hash over pieces', () => {
  it('tells where one piece ends and the next begins', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string(), { maxLength: 4 }),
        fc.array(fc.string(), { maxLength: 4 }),
        (a, b) => {
          expect(hashOf(...a) === hashOf(...b)).toBe(JSON.stringify(a) === JSON.stringify(b));
        },
      ),
    );
    expect(hashOf('ab', 'c')).not.toBe(hashOf('a', 'bc'));
    expect(hashOf('abc')).toBe(hashOf(new TextEncoder().encode('abc')));
  });
});

describe('a file that is written durably', () => {
  it('is there whole, over the one before, with nothing beside it', async () => {
    const path = join(folder, 'file');
    await writeDurably(path, 'first');
    await writeDurably(path, 'second');
    expect(await readFile(path, 'utf8')).toBe('second');
    expect(readdirSync(folder)).toEqual(['file']);
  });
  it('that cannot be laid leaves neither itself nor a part', async () => {
    await mkdir(join(folder, 'taken'));
    await writeFile(join(folder, 'taken', 'inside'), '');
    await expect(writeDurably(join(folder, 'taken'), 'x')).rejects.toThrow();
    expect(everyFile(folder).map(({ name }) => name)).toEqual(['inside']);
    expect(existsSync(join(folder, 'taken', 'inside'))).toBe(true);
  });
  it('a tree is brought to the disk as it is', async () => {
    await mkdir(join(folder, 'a', 'b'), { recursive: true });
    for (const name of ['one', 'a/two', 'a/b/three']) await writeFile(join(folder, name), name);
    await syncTree(folder);
    expect(everyFile(folder)).toHaveLength(3);
    await expect(syncTree(join(folder, 'nowhere'))).rejects.toThrow();
  });
});

describe('what was half written', () => {
  it('is found two folders down and not in the database, and cleared', async () => {
    await mkdir(join(folder, 'images', 'ab', 'deep'), { recursive: true });
    await mkdir(join(folder, 'database'), { recursive: true });
    const parts = ['x.part', 'images/y.part', 'images/ab/z.part'];
    for (const name of [...parts, 'images/ab/deep/far.part', 'database/own.part', 'whole'])
      await writeFile(join(folder, name), '');
    expect((await leftoversIn(folder)).sort()).toEqual(parts.map((name) => join(folder, name)).sort());
    await clearLeftovers(folder);
    expect(
      everyFile(folder)
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['far.part', 'own.part', 'whole']);
    expect(await leftoversIn(join(folder, 'nowhere'))).toEqual([]);
  });
});

describe('lines that were taught', () => {
  const line = (text: string, key = 'steps.x') => ({ text, values: [{ key }] }) as never;
  it('are kept in an open file; none is no file', async () => {
    const empty = await loadOwnDialect(folder);
    expect(empty.lines).toEqual([]);
    expect(existsSync(ownDialectPath(folder))).toBe(false);
  });
  it('one of the same text takes the place of the one before', async () => {
    const first = taught(await loadOwnDialect(folder), line('Speed #'));
    const both = taught(first, line('Jolt #'));
    const again = taught(both, line('Speed #', 'steps.y'));
    expect(again.lines).toEqual([line('Jolt #'), line('Speed #', 'steps.y')]);
  });
  it('a damaged file is told with its place, and is no empty one', async () => {
    await saveOwnDialect(folder, await loadOwnDialect(folder));
    await writeFile(ownDialectPath(folder), 'jolly: dialect/1\nid: [');
    await expect(loadOwnDialect(folder)).rejects.toThrow(/own\.yaml, line 2/);
  });
});

describe('the code of an error', () => {
  it('is the system’s, and nothing where there is none', async () => {
    const missing = await readFile(join(folder, 'nowhere')).catch((error: unknown) => error);
    expect(errorCode(missing)).toBe('ENOENT');
    expect([errorCode(new Error('x')), errorCode('ENOENT'), errorCode(undefined)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
});
