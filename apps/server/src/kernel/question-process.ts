import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { Answerer, SubtaskFailed, type Subtask } from './answerer.ts';
import { KernelRefusal } from './kernel-thread.ts';
import type { FromQuestions, Outcome, ToQuestions } from './question-messages.ts';
import { questionMainUrl } from './worker-url.ts';

/**
 * Bytes of its memory after which another process takes the next questions: four threads may each hold a
 * gigabyte of the kernel's.
 */
const GROWN = 3_000_000_000;

interface Asked {
  id: number;
  subtask: Subtask;
  child: ChildProcess | null;
  /** Whether a process died while it was answered: then it is asked once more, and alone of its kind. */
  suspect: boolean;
  /** What `shapeOf` said, which the other process does not understand. */
  fault: unknown;
  resolve: (answer: unknown) => void;
  reject: (error: unknown) => void;
}

/**
 * Questions are answered in a process of their own, so that neither their memory nor their end is the web
 * server's. One that died is replaced; what it was at is asked once more, one after the other, so that
 * whichever subtask kills it takes no other with it.
 */
@Injectable()
export class QuestionProcess extends Answerer implements OnApplicationShutdown {
  private readonly logger = new Logger('Questions');
  private child: ChildProcess | null = null;
  private readonly asked = new Map<number, Asked>();
  private count = 0;
  private closing = false;

  warm(): void {
    this.started();
  }

  onApplicationShutdown(): void {
    this.closing = true;
    for (const child of new Set([this.child, ...[...this.asked.values()].map((a) => a.child)]))
      child?.kill('SIGKILL');
  }

  ask(subtask: Subtask): Promise<unknown> {
    return new Promise((resolve, reject) => {
      if (subtask.signal.aborted) return reject(subtask.signal.reason as Error);
      const settled = new AbortController();
      const entry: Asked = {
        id: ++this.count,
        subtask,
        child: null,
        suspect: false,
        fault: undefined,
        resolve: (answer) => (settled.abort(), resolve(answer)),
        reject: (error) => (settled.abort(), reject(error as Error)),
      };
      this.asked.set(entry.id, entry);
      subtask.signal.addEventListener('abort', () => this.leave(entry), {
        once: true,
        signal: settled.signal,
      });
      this.send(entry);
    });
  }

  private send(entry: Asked): void {
    const { signal: _signal, shapeOf: _shapeOf, ...subtask } = entry.subtask;
    entry.child = this.started();
    tell(entry.child, { type: 'ask', id: entry.id, subtask });
  }

  private leave(entry: Asked): void {
    if (entry.child) return tell(entry.child, { type: 'leave', id: entry.id });
    this.asked.delete(entry.id);
    entry.reject(entry.subtask.signal.reason);
  }

  private started(): ChildProcess {
    if (this.child) return this.child;
    const { url, execArgv } = questionMainUrl();
    const child = fork(fileURLToPath(url), {
      execArgv,
      serialization: 'advanced',
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    this.child = child;
    child.on('message', (message: FromQuestions) => void this.hear(child, message));
    child.once('exit', (code, signal) => this.ended(child, signal ?? `code ${code}`));
    child.once('error', (error) => this.ended(child, error.message));
    return child;
  }

  private async hear(child: ChildProcess, message: FromQuestions): Promise<void> {
    const entry = this.asked.get(message.id);
    if (!entry || entry.child !== child) return;
    if (message.type === 'end') {
      this.asked.delete(message.id);
      settle(entry, message.outcome);
      if (message.rss > GROWN) this.retire(child);
      return this.tidy(child);
    }
    const bytes = await entry.subtask.shapeOf(message.hash).catch((error: unknown) => {
      entry.fault = error;
      return null;
    });
    tell(child, { type: 'shape', call: message.call, bytes });
  }

  /** The next questions go to another process; this one answers what it has. */
  private retire(child: ChildProcess): void {
    if (this.child === child) this.child = null;
  }

  /** A process that is done is let go; a suspect that waited is asked. */
  private tidy(child: ChildProcess): void {
    const all = [...this.asked.values()];
    if (child !== this.child && !all.some((a) => a.child === child)) child.kill('SIGKILL');
    const suspects = all.filter((a) => a.suspect);
    const next = suspects.find((a) => !a.child);
    if (next && !suspects.some((a) => a.child)) this.send(next);
  }

  private ended(child: ChildProcess, why: string): void {
    this.retire(child);
    if (this.closing) return;
    const lost = [...this.asked.values()].filter((a) => a.child === child);
    if (lost.length)
      this.logger.warn(
        `The process of the questions ended (${why}) with ${lost.length} under way; it is started again.`,
      );
    for (const entry of lost) {
      entry.child = null;
      if (!entry.suspect && !entry.subtask.signal.aborted) entry.suspect = true;
      else {
        this.asked.delete(entry.id);
        entry.reject(
          entry.subtask.signal.aborted
            ? entry.subtask.signal.reason
            : new SubtaskFailed('the kernel could not do it'),
        );
      }
    }
    this.tidy(child);
  }
}

/** One that has just ended hears nothing; that it ended is told of its own. */
const tell = (child: ChildProcess, message: ToQuestions): void =>
  void (child.connected && child.send(message, () => {}));

function settle(entry: Asked, outcome: Outcome): void {
  if (outcome.type === 'answer') entry.resolve(outcome.answer);
  else if (outcome.type === 'gave up') entry.reject(new SubtaskFailed(outcome.why));
  else if (outcome.type === 'refused') entry.reject(new KernelRefusal(outcome.sentence, outcome.cause));
  else if (outcome.type === 'left') entry.reject(entry.subtask.signal.reason);
  else entry.reject(entry.fault ?? new Error(outcome.words));
}
