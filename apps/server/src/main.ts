import { createApp } from './create-app.ts';

const port = Number(process.env['PORT'] ?? 4600);
try {
  const app = await createApp(process.env['BATHYSCOPE_WEB']);
  await app.listen(port, process.env['HOST'] ?? '127.0.0.1');
  console.log(`Bathyscope is ready: http://localhost:${port}`);
} catch (error) {
  const busy = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
  console.error(busy ? `Port ${port} is in use by another program. Stop it, or start with another one: PORT=${port + 1} bin/start.` : error);
  process.exit(1);
}
