import { createApp } from './create-app.ts';
import { giveUpStart, HopelessStart } from './process/hopeless-start.ts';
import { addressOf, installation } from './process/installation.ts';
import { stayUp } from './process/stay-up.ts';

let close = (): Promise<void> => Promise.resolve();
stayUp(() => close());
try {
  const settings = installation();
  const { PORT: port, HOST: host, BATHYSCOPE_WEB: web } = settings;
  const app = await createApp(web);
  close = () => app.close();
  await app.listen(port, host).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') throw error;
    const other = `start with another one: PORT=${port + 1} bin/start`;
    throw new HopelessStart(`Port ${port} is in use by another program. Stop it, or ${other}.`);
  });
  console.log(`Bathyscope is ready: ${addressOf(settings)}`);
} catch (error) {
  giveUpStart(error);
}
