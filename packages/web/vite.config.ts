import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: { outDir: '../../dist/web', emptyOutDir: true, target: 'es2022', chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
  // The server puts a fresh one into every page it gives away (server/src/api/page.ts).
  html: { cspNonce: '__NONCE__' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:4620', changeOrigin: true } } },
});
