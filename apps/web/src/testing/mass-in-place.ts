import { MASS_WORK, type MassReply, type MassRequest } from '../workers/mass-work.ts';

/** Stands for the worker that weighs: the same work, in the test's own thread. */
export class MassInPlace {
  onmessage: ((event: { data: MassReply }) => void) | null = null;
  private ended = false;

  postMessage({ job, asked }: MassRequest): void {
    setTimeout(
      () =>
        this.ended || this.onmessage?.({ data: { answered: MASS_WORK[job](asked as never) } as MassReply }),
    );
  }

  terminate(): void {
    this.ended = true;
  }
}
