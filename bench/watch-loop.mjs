import fs from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';

/*
 * Loaded into the web server: says on SIGUSR2 how long its event loop was held at the most
 * since it was asked last, ms.
 */
if (process.argv[1]?.endsWith('dist/main.js')) {
  const resolution = 5;
  const delay = monitorEventLoopDelay({ resolution });
  delay.enable();
  process.on('SIGUSR2', () => {
    fs.writeFileSync(process.env.LOOP_FILE, String(Math.max(0, delay.max / 1e6 - resolution)));
    delay.reset();
  });
}
