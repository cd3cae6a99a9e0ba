import { cp, mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { keepDemo, loadDemo } from '../src/demo/demoFiles';
import { keepCatalogue, loadCatalogue } from '../src/files/catalogue';

const checkout = join(import.meta.dirname, '../../..');
let root: string;
beforeAll(async () => {
  root = await mkdtemp(join(tmpdir(), 'jolly-catalogue-'));
  await cp(join(checkout, 'catalogue'), join(root, 'catalogue'), { recursive: true });
  await mkdir(join(root, 'packages/firmware/lantern'), { recursive: true });
  await cp(
    join(checkout, 'packages/firmware/lantern/kit.yaml'),
    join(root, 'packages/firmware/lantern/kit.yaml'),
  );
  await mkdir(join(root, 'dist'));
});
afterAll(() => rm(root, { recursive: true, force: true }));

const chips = () => join(root, 'catalogue/chips/chips.yaml');

describe('the catalogue that is kept at the build', () => {
  it('is what the files say', async () => {
    const read = await loadCatalogue(root);
    await keepCatalogue(root);
    expect(await loadCatalogue(root)).toEqual(read);
  });

  it('is let go when a file says something else', async () => {
    await keepCatalogue(root);
    const text = await readFile(chips(), 'utf8');
    const name = /name: (\S+)/.exec(text)?.[1] ?? '';
    await writeFile(chips(), text.replace(`name: ${name}`, 'name: Renamed'));
    const { chips: now } = await loadCatalogue(root);
    expect(now.some((chip) => chip.name === 'Renamed')).toBe(true);
    await writeFile(chips(), text);
  });

  it('does not hide a mistake in a file', async () => {
    await keepCatalogue(root);
    const text = await readFile(chips(), 'utf8');
    await writeFile(chips(), `${text}\n---\njolly: chip/1\nid: broken\n`);
    await expect(loadCatalogue(root)).rejects.toThrow(/chips\.yaml:\d+/);
    await writeFile(chips(), text);
  });
});

describe('the demo that is kept at the build', () => {
  const plover = () => join(root, 'catalogue/demo/plover.yaml');

  it('is what the files say, and is let go when one says something else', async () => {
    const read = await loadDemo(root);
    await keepDemo(root);
    expect(await loadDemo(root)).toEqual(read);
    const text = await readFile(plover(), 'utf8');
    await writeFile(plover(), text.replace(/^name: .*/m, 'name: Renamed'));
    expect((await loadDemo(root)).map(({ machine }) => machine.name)).toContain('Renamed');
    await writeFile(plover(), text);
  });

  it('does not hide a mistake in a machine, in what is told of its past, or in its job', async () => {
    await keepDemo(root);
    for (const path of ['demo/plover.yaml', 'history.yaml', 'demo/jobs/plover.yaml']) {
      const file = join(root, 'catalogue', path);
      const text = await readFile(file, 'utf8');
      await writeFile(file, `${text}\nnothing_known: 1\n`);
      await expect(loadDemo(root)).rejects.toThrow(new RegExp(path));
      await writeFile(file, text);
    }
  });
});
