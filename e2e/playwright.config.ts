import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { defineConfig } from '@playwright/test';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const PORT = 4699;
/**
 * As the server is called from another computer: over plain http browsers keep some of what
 * they can from such pages.
 */
const OTHER_NAME = 'bathyscope.test';

/**
 * The real application, as built, on the database that bin/test starts
 * (DATABASE_URL), with Debian's Chromium.
 */
export default defineConfig({
  testDir: '.',
  globalSetup: './wait-for-demo.ts',
  outputDir: path.join(root, 'test-results'),
  workers: 1,
  fullyParallel: false,
  // Generous: the drawing is software, and the machine may be shared.
  timeout: 240_000,
  expect: { timeout: 40_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    // A pixel for every four of the layout: the drawing is software, and took half of the time.
    deviceScaleFactor: 0.5,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // Mesa draws about three times as fast in software as the browser's own renderer.
        '--use-gl=angle',
        '--use-angle=gl-egl',
        '--ignore-gpu-blocklist',
        '--enable-gpu-rasterization',
        `--host-resolver-rules=MAP ${OTHER_NAME} 127.0.0.1`,
      ],
    },
    // Views change at once; the smooth turn has a test of its own.
    contextOptions: { reducedMotion: 'reduce' },
    permissions: ['clipboard-read', 'clipboard-write'],
    screenshot: 'only-on-failure',
    // A click that cannot be made says so, instead of using up the test.
    actionTimeout: 60_000,
  },
  webServer: {
    command: 'node e2e/serve.mjs',
    cwd: root,
    url: `http://127.0.0.1:${PORT}/api/models`,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
    env: {
      PORT: String(PORT),
      NODE_ENV: 'production',
      BATHYSCOPE_WEB: path.join(root, 'apps/web/dist-test'),
      BATHYSCOPE_DEMO: path.join(root, 'demo/models'),
      BATHYSCOPE_HOSTS: `127.0.0.1,${OTHER_NAME}`,
      BATHYSCOPE_MAX_UPLOAD_MB: '4',
      DATABASE_URL: process.env['DATABASE_URL'] ?? '',
    },
  },
});
