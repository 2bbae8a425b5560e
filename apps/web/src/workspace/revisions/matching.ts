import { startMatchWorker } from '../../workers/start-match-worker.ts';
import type { MatchAnswers, MatchReply, MatchRequest } from '../../workers/match-work.ts';

/** Has revisions compared, by a worker that is asked one thing at a time. */
export class Matching {
  private worker: Worker | null = null;

  ask<K extends MatchRequest['kind']>(
    kind: K,
    request: Omit<Extract<MatchRequest, { kind: K }>, 'kind'>,
    hand: readonly ArrayBuffer[] = [],
  ): Promise<MatchAnswers[K]> {
    const worker = (this.worker ??= startMatchWorker());
    return new Promise((resolve, reject) => {
      worker.onmessage = ({ data }: MessageEvent<MatchReply>) =>
        'error' in data ? reject(new Error(data.error)) : resolve(data.answer as MatchAnswers[K]);
      worker.onerror = (e) => {
        this.end();
        reject(new Error(e.message || 'The revisions could not be compared.'));
      };
      worker.postMessage({ kind, ...request }, [...new Set(hand)]);
    });
  }

  end(): void {
    this.worker?.terminate();
    this.worker = null;
  }
}
