import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** Tests that compile C or start the product need it built; where it is not, it is built first, and said. */
export default function builtForTests(): void {
  const root = join(import.meta.dirname, '..');
  const needed = [
    'dist/jolly.mjs',
    'dist/compilerWorker.mjs',
    'dist/readerWorker.mjs',
    'dist/web/index.html',
  ];
  if (needed.every((path) => existsSync(join(root, path)))) return;
  console.error('The product is not built; the tests need it. Building it first.');
  execFileSync(process.execPath, ['scripts/build.mjs'], { cwd: root, stdio: 'inherit' });
}
