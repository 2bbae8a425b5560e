import { answerMatch, type MatchReply, type MatchRequest } from '../workers/match-work.ts';

/** Stands for the worker that compares revisions: the same work, in the test's own thread. */
export class MatchInPlace {
  onmessage: ((event: { data: MatchReply }) => void) | null = null;

  postMessage(request: MatchRequest): void {
    const reply: MatchReply = { answer: answerMatch(request) };
    setTimeout(() => this.onmessage?.({ data: structuredClone(reply) }));
  }

  terminate(): void {}
}
