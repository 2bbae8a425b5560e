import path from 'node:path';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defaultClientConditions, defineConfig } from 'vite';

/** In mode `test` it lends tests its view and stores, and stands beside what is shipped. */
export default defineConfig(({ mode }) => ({
  root: import.meta.dirname,
  // What the page loads stands beside it, wherever the server has it; the server writes where into <base>.
  base: './',
  plugins: [react(), tailwindcss()],
  resolve: { conditions: ['@bathyscope/source', ...defaultClientConditions] },
  worker: { format: 'es' },
  build: {
    outDir: path.join(import.meta.dirname, mode === 'test' ? 'dist-test' : 'dist'),
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    // What changes seldom is kept apart, so that a new version loads little.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            { name: 'three', test: /node_modules[\\/](three|three-mesh-bvh)[\\/]/ },
            { name: 'react', test: /node_modules[\\/](react|react-dom|react-router|scheduler)[\\/]/ },
            { name: 'vendor', test: /node_modules/ },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
}));
