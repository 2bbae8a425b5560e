import path from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['@bathyscope/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: { outDir: path.join(import.meta.dirname, 'dist'), emptyOutDir: true, chunkSizeWarningLimit: 1500 },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
