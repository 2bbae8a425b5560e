import { messageOf } from '@bathyscope/core/tables';
import { MASS_WORK, type MassJob, type MassReply, type MassRequest } from './mass-work.ts';

/* Weighs away from the interface's thread. */

self.onmessage = <J extends MassJob>({ data: { job, asked } }: MessageEvent<MassRequest<J>>) => {
  const reply = (message: MassReply<J>) => self.postMessage(message);
  try {
    reply({ answered: MASS_WORK[job](asked) });
  } catch (error) {
    reply({ error: messageOf(error) });
  }
};
