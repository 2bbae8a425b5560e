import { messageOf } from '@bathyscope/core/tables';
import { answerMatch, type MatchReply, type MatchRequest } from './match-work.ts';

/* Compares revisions away from the interface's thread. */

self.onmessage = ({ data }: MessageEvent<MatchRequest>) => {
  try {
    self.postMessage({ answer: answerMatch(data) } satisfies MatchReply);
  } catch (error) {
    self.postMessage({ error: messageOf(error) } satisfies MatchReply);
  }
};
