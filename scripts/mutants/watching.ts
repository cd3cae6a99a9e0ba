import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, expect } from 'vitest';

/** The change that is tried; none while it is looked which tests come by which. */
const tried = Number(process.env['MUTANT'] ?? NaN);
const into = process.env['MUTANT_HITS'];
const met = new Set<number>();

Object.assign(globalThis, {
  __mutant: (id: number) => {
    if (into !== undefined) met.add(id);
    return id === tried;
  },
});

if (into !== undefined)
  afterAll(() => {
    const file = expect.getState().testPath ?? 'unknown';
    mkdirSync(into, { recursive: true });
    writeFileSync(join(into, `${file.replace(/\W+/g, '-')}.json`), JSON.stringify({ file, ids: [...met] }));
  });
