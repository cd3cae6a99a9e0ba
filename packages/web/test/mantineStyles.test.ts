import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '../../..');
const assets = join(root, 'dist/web/assets');
const built = (ending: string) =>
  readdirSync(assets)
    .filter((name) => name.endsWith(ending))
    .map((name) => readFileSync(join(assets, name), 'utf8'))
    .join('\n');
const classesIn = (text: string) => new Set(text.match(/\bm_[0-9a-f]{6,}\b/g));

describe('the styles that the built interface carries', () => {
  it('are those of every part of Mantine that its program draws', () => {
    const all = classesIn(readFileSync(join(root, 'node_modules/@mantine/core/styles.css'), 'utf8'));
    const drawn = [...classesIn(built('.js'))].filter((name) => all.has(name));
    const carried = classesIn(built('.css'));
    expect(drawn.length).toBeGreaterThan(100);
    expect(drawn.filter((name) => !carried.has(name))).toEqual([]);
  });
});
