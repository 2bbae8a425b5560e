import { statfs } from 'node:fs/promises';
import { installation } from '../process/installation.ts';
import { DISK_FULL, ProblemException } from '../problems/problem.ts';

/** Bytes kept free for the database's own work. */
const RESERVE = 64 * 1024 * 1024;

/**
 * Refuses an upload for which the database's disk has no room. The folder is known (BATHYSCOPE_DISK) where
 * the database is on this machine. @throws ProblemException (507)
 */
export async function requireRoom(size: number): Promise<void> {
  const folder = installation().BATHYSCOPE_DISK;
  if (!folder) return;
  const room = await statfs(folder).then(
    (disk) => disk.bavail * disk.bsize,
    () => Infinity,
  );
  // What is uploaded is stored, and so is what is made of it.
  if (room < RESERVE + 2 * size) throw new ProblemException(507, 'No room', DISK_FULL);
}
