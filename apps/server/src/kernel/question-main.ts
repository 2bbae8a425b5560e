import 'reflect-metadata';
import { SubtaskFailed } from './answerer.ts';
import { KernelRefusal } from './kernel-thread.ts';
import type { FromQuestions, Outcome, SentSubtask, ToQuestions } from './question-messages.ts';
import { QuestionThreads } from './question-threads.ts';

/*
 * The process of the questions: its threads may take what memory they like, and it may die, without the web
 * server's noticing.
 */

// Whoever started it ends it, also by going away itself, and that may be before anything here has begun.
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => {});
process.on('disconnect', () => process.exit(0));
if (!process.connected) process.exit(0);

const tell = (message: FromQuestions): void => void (process.connected && process.send!(message));
const under = new Map<number, AbortController>();
const shapes = new Map<number, (bytes: Uint8Array | null) => void>();
let calls = 0;

const threads = new QuestionThreads();
await threads.onModuleInit();
threads.warm();

async function answer(id: number, subtask: SentSubtask): Promise<void> {
  const left = new AbortController();
  under.set(id, left);
  const shapeOf = async (hash: string): Promise<Uint8Array> => {
    const call = ++calls;
    const bytes = await new Promise<Uint8Array | null>((resolve) => {
      shapes.set(call, resolve);
      tell({ type: 'shape', id, call, hash });
    });
    if (!bytes) throw new Error('The shape could not be had.');
    return bytes;
  };
  const outcome = await threads.ask({ ...subtask, signal: left.signal, shapeOf }).then(
    (found): Outcome => ({ type: 'answer', answer: found }),
    (error: unknown): Outcome => outcomeOf(error, left.signal),
  );
  under.delete(id);
  tell({ type: 'end', id, outcome, rss: process.memoryUsage.rss() });
}

function outcomeOf(error: unknown, left: AbortSignal): Outcome {
  if (error instanceof SubtaskFailed) return { type: 'gave up', why: error.why };
  if (error instanceof KernelRefusal) return { type: 'refused', sentence: error.message, cause: error.cause };
  if (left.aborted) return { type: 'left' };
  return { type: 'fault', words: error instanceof Error ? (error.stack ?? error.message) : String(error) };
}

process.on('message', (message: ToQuestions) => {
  if (message.type === 'ask') void answer(message.id, message.subtask);
  else if (message.type === 'leave') under.get(message.id)?.abort();
  else {
    shapes.get(message.call)?.(message.bytes);
    shapes.delete(message.call);
  }
});
