// Writes packages/core/src/report/shippedDialects.ts from catalogue/dialects: npx tsx scripts/shippedDialects.ts
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { parse } from 'yaml';

const root = join(import.meta.dirname, '..');
const folder = join(root, 'catalogue/dialects');
const target = join(root, 'packages/core/src/report/shippedDialects.ts');
const dialects: unknown[] = readdirSync(folder)
  .sort()
  .map((name) => parse(readFileSync(join(folder, name), 'utf8')));
const source = `import type { Dialect } from './dialect';

/** The dialects of catalogue/dialects, for whoever has no files at hand. Written by scripts/shippedDialects.ts. */
export const SHIPPED_DIALECTS: Dialect[] = ${JSON.stringify(dialects)};
`;
writeFileSync(target, await format(source, { ...(await resolveConfig(target)), filepath: target }));
