import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { compileKernel } from '@bathyscope/kernel';
import { isShort } from '../process/lanes.ts';
import { installation } from '../process/installation.ts';
import { KernelRefusal, KernelStopped, KernelThread } from './kernel-thread.ts';
import type { ConvertOutcome, KernelNews } from './messages.ts';

const MINUTE = 60_000;
const MB = 1024 * 1024;
/** Bytes. A thread whose heap grew past this is replaced after its job: the kernel's memory never shrinks. */
const RECYCLE_HEAP = 1_500_000_000;

/** What a conversion may cost before it is given up. */
export interface ConversionLimits {
  /**
   * ms without progress. Reading and transferring a file cannot tell how far they are, so
   * large files have longer.
   */
  silence(size: number): number;
  /** ms in all. */
  total(size: number): number;
  /** Bytes of the process. */
  memory: number;
}

/** Bytes of a file from which on it has all the time that is set, and of one that has more. */
const MIDDLE = 10 * MB;
const LARGE = 25 * MB;
/**
 * Seconds of silence, and minutes, that also the smallest has. The slowest small file
 * known is silent for 4 s.
 */
const LEAST_SILENCE = 30;
const LEAST_TOTAL = 2;

/**
 * What is set holds from MIDDLE to LARGE: a small damaged file shall not hold others up for as long as a
 * large sound one needs.
 */
export function conversionLimits(): ConversionLimits {
  const {
    BATHYSCOPE_SILENCE_S: silence,
    BATHYSCOPE_CONVERSION_MIN: total,
    BATHYSCOPE_MEMORY_MB: memory,
  } = installation();
  const share = (most: number, least: number, size: number) =>
    Math.max(Math.min(most, least), most * Math.min(1, size / MIDDLE));
  return {
    silence: (size) => share(silence, LEAST_SILENCE, size) * 1000 * Math.max(1, size / LARGE),
    total: (size) => (share(total, LEAST_TOTAL, size) + 2 * (size / MB)) * MINUTE,
    memory: memory * MB,
  };
}

/** Threads for short files, for others, and for what nobody waits for. */
type Threads = Record<'short' | 'long' | 'again', KernelThread>;

/** Times as long as what nobody waits for may take: on a busy machine it has a tenth of a core. */
const PATIENT = 20;
const patient = ({ silence, total, memory }: ConversionLimits): ConversionLimits => ({
  silence: (size) => PATIENT * silence(size),
  total: (size) => PATIENT * total(size),
  memory,
});

/**
 * Turns the bytes of files into geometry in kernel threads, each replaced after
 * anything that may have hurt it.
 */
@Injectable()
export class ConverterService implements OnApplicationShutdown {
  private readonly logger = new Logger('Converter');
  private threads: Promise<Threads> | null = null;
  /** How many conversions run. */
  private running = 0;

  /** Starts a thread, so that the first file need not wait for it. */
  async warm(): Promise<void> {
    (await this.started()).long.warm();
  }

  /** Version of what converts, once a thread has started. */
  async version(): Promise<string | null> {
    return (await this.started()).long.version();
  }

  async onApplicationShutdown(): Promise<void> {
    for (const thread of Object.values((await this.threads) ?? {})) await thread.stop();
  }

  /**
   * @param signal ends the conversion at once; KernelStopped is thrown then
   * @throws KernelRefusal with a sentence for the user, also when a limit is exceeded; KernelStopped or
   * KernelFault for faults
   */
  async convert(
    bytes: Uint8Array,
    fileName: string,
    onNews: (news: KernelNews) => void,
    signal: AbortSignal,
    limits = conversionLimits(),
    how?: 'again',
  ): Promise<ConvertOutcome> {
    const thread = (await this.started())[how ?? (isShort(bytes.byteLength) ? 'short' : 'long')];
    signal.throwIfAborted();
    let over: KernelRefusal | null = null;
    const giveUp = (sentence: string) => {
      over ??= new KernelRefusal(sentence);
      void thread.stop();
    };
    this.running++;
    // Of two, the long one is the likelier to have taken the memory.
    const watch = new Watch(
      bytes.byteLength,
      how ? patient(limits) : limits,
      giveUp,
      () => isShort(bytes.byteLength) && this.running > 1,
    );
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
      this.running--;
      watch.stop();
      signal.removeEventListener('abort', stop);
    }
  }

  private started(): Promise<Threads> {
    this.threads ??= compileKernel().then((module) => ({
      short: new KernelThread(module, 'conversions'),
      long: new KernelThread(module, 'conversions'),
      again: new KernelThread(module, 'background'),
    }));
    return this.threads;
  }

  private async replace(thread: KernelThread): Promise<void> {
    await thread.stop();
    // What nobody waits for starts when it is needed.
    if (thread !== (await this.started()).again) thread.warm();
  }
}

const BIG =
  'The file may be too large or damaged for the geometry kernel; export it again, if possible in smaller pieces.';

/** Watches over one conversion. */
class Watch {
  private last = Date.now();
  private readonly timer: NodeJS.Timeout;

  /** @param spared whether memory is likelier another's */
  constructor(
    size: number,
    limits: ConversionLimits,
    giveUp: (sentence: string) => void,
    spared: () => boolean,
  ) {
    const begun = Date.now();
    const minutes = (ms: number) =>
      ms < MINUTE ? `${Math.round(ms / 1000)} seconds` : `${Math.round(ms / MINUTE)} minutes`;
    this.timer = setInterval(() => {
      const now = Date.now();
      if (now - this.last > limits.silence(size))
        giveUp(
          `The conversion was given up: it made no progress for ${minutes(limits.silence(size))}. ${BIG}`,
        );
      else if (now - begun > limits.total(size))
        giveUp(
          `The conversion was given up after ${minutes(limits.total(size))}, the longest that a file of this size may take. ${BIG}`,
        );
      else if (!spared() && process.memoryUsage.rss() > limits.memory)
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
