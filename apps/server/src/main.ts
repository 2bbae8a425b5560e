import { createApp } from './create-app.ts';
import { stayUp } from './process/stay-up.ts';

/** The supervisor does not start again what ended so: it would end so again. */
const HOPELESS = 78;

const port = Number(process.env['PORT'] ?? 4600);
let close = (): Promise<void> => Promise.resolve();
stayUp(() => close());
try {
  const app = await createApp(process.env['BATHYSCOPE_WEB']);
  close = () => app.close();
  await app.listen(port, process.env['HOST'] ?? '127.0.0.1');
  console.log(`Bathyscope is ready: http://localhost:${port}`);
} catch (error) {
  const busy = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(
    busy ? `Port ${port} is in use by another program. Stop it, or start with another one: PORT=${port + 1} bin/start.` : error,
  );
  process.exit(busy ? HOPELESS : 1);
}
