import react from '@vitejs/plugin-react';
import { join } from 'node:path';
import { defineConfig } from 'vite';

const ENTRY = join(import.meta.dirname, 'src/main.tsx');

/** Every module that the page's own program needs before it can begin; the interface is built once a run. */
let first: ReadonlySet<string> | undefined;

interface Modules {
  getModuleInfo(id: string): { importedIds: readonly string[] } | null;
}
function neededFirst(modules: Modules): ReadonlySet<string> {
  const found = new Set([ENTRY]);
  // A set takes what is added while it is gone through.
  for (const id of found) for (const next of modules.getModuleInfo(id)?.importedIds ?? []) found.add(next);
  return found;
}

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: '../../dist/web',
    emptyOutDir: true,
    target: 'es2022',
    chunkSizeWarningLimit: 1200,
    // A request costs more than a few bytes too many: what the first page needs is one file, what stations share another.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            {
              name: (id, modules) => ((first ??= neededFirst(modules)).has(id) ? 'first' : null),
              debugName: 'first',
              priority: 1,
            },
            { name: 'stations', minShareCount: 2 },
          ],
        },
      },
    },
  },
  worker: { format: 'es' },
  // The server puts a fresh one into every page it gives away (server/src/api/page.ts).
  html: { cspNonce: '__NONCE__' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4620', changeOrigin: true } } },
});
