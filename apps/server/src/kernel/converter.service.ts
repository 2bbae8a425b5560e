import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { compileKernel } from '@bathyscope/kernel';
import { installation } from '../process/installation.ts';
import { KernelRefusal, KernelStopped, KernelThread } from './kernel-thread.ts';
import type { ConvertOutcome, KernelNews } from './messages.ts';

const MINUTE = 60_000;
const MB = 1024 * 1024;
/** Bytes. A thread whose heap grew past this is replaced after its job: the kernel's memory never shrinks. */
const RECYCLE_HEAP = 1_500_000_000;

/** What a conversion may cost before it is given up. */
export interface ConversionLimits {
  /** ms without progress. Reading and transferring a file cannot tell how far they are, so large files have longer. */
  silence(size: number): number;
  /** ms in all. */
  total(size: number): number;
  /** Bytes of the process. */
  memory: number;
}

export function conversionLimits(): ConversionLimits {
  const { BATHYSCOPE_SILENCE_S: silence, BATHYSCOPE_CONVERSION_MIN: total, BATHYSCOPE_MEMORY_MB: memory } = installation();
  return {
    silence: (size) => silence * 1000 * Math.max(1, size / (25 * MB)),
    total: (size) => total * MINUTE + 2 * MINUTE * (size / MB),
    memory: memory * MB,
  };
}

/** Turns the bytes of a file into geometry in one kernel thread, which is replaced after anything that may have hurt it. */
@Injectable()
export class ConverterService implements OnApplicationShutdown {
  private readonly logger = new Logger('Converter');
  private thread: Promise<KernelThread> | null = null;

  /** Starts the thread, so that the first file need not wait for it. */
  async warm(): Promise<void> {
    (await this.started()).warm();
  }

  async onApplicationShutdown(): Promise<void> {
    await (await this.thread)?.stop();
  }

  /**
   * @param signal ends the conversion at once; KernelStopped is thrown then
   * @throws KernelRefusal with a sentence for the user, also when a limit is exceeded; KernelStopped or KernelFault for faults
   */
  async convert(
    bytes: Uint8Array,
    fileName: string,
    onNews: (news: KernelNews) => void,
    signal: AbortSignal,
    limits = conversionLimits(),
  ): Promise<ConvertOutcome> {
    const thread = await this.started();
    signal.throwIfAborted();
    let over: KernelRefusal | null = null;
    const giveUp = (sentence: string) => {
      over ??= new KernelRefusal(sentence);
      void thread.stop();
    };
    const watch = new Watch(bytes.byteLength, limits, giveUp);
    const stop = () => void thread.stop();
    signal.addEventListener('abort', stop);
    try {
      const end = await thread.ask({ type: 'convert', bytes, fileName }, (news) => {
        watch.progress();
        onNews(news);
      });
      if (end.type !== 'converted') throw new KernelStopped('The thread answered something else.');
      if (end.heap > RECYCLE_HEAP) await this.replace(thread);
      return end.outcome;
    } catch (error) {
      // After a file that failed the instance may hang on the next.
      await this.replace(thread);
      if (error instanceof KernelRefusal && error.cause) this.logger.log(`${fileName}: ${error.cause}`);
      throw over ?? error;
    } finally {
      watch.stop();
      signal.removeEventListener('abort', stop);
    }
  }

  private started(): Promise<KernelThread> {
    this.thread ??= compileKernel().then((module) => new KernelThread(module));
    return this.thread;
  }

  private async replace(thread: KernelThread): Promise<void> {
    await thread.stop();
    thread.warm();
  }
}

const BIG = 'The file may be too large or damaged for the geometry kernel; export it again, if possible in smaller pieces.';

/** Watches over one conversion. */
class Watch {
  private last = Date.now();
  private readonly timer: NodeJS.Timeout;

  constructor(size: number, limits: ConversionLimits, giveUp: (sentence: string) => void) {
    const begun = Date.now();
    const minutes = (ms: number) => (ms < MINUTE ? `${Math.round(ms / 1000)} seconds` : `${Math.round(ms / MINUTE)} minutes`);
    this.timer = setInterval(() => {
      const now = Date.now();
      if (now - this.last > limits.silence(size))
        giveUp(`The conversion was given up: it made no progress for ${minutes(limits.silence(size))}. ${BIG}`);
      else if (now - begun > limits.total(size))
        giveUp(`The conversion was given up after ${minutes(limits.total(size))}, the longest that a file of this size may take. ${BIG}`);
      else if (process.memoryUsage.rss() > limits.memory)
        giveUp(
          `The conversion was given up: it needed more than ${Math.round(limits.memory / MB).toLocaleString('en')} MB of memory. ${BIG}`,
        );
    }, 250);
  }

  progress(): void {
    this.last = Date.now();
  }

  stop(): void {
    clearInterval(this.timer);
  }
}
