import {
  SectionWork,
  type SectionJob,
  type SectionModel,
  type SectionReply,
} from '../workers/section-work.ts';

/** Stands for the worker that cuts: the same work, in the test's own thread. */
export class CutInPlace {
  onmessage: ((event: { data: SectionReply }) => void) | null = null;
  private readonly work = new SectionWork();

  postMessage(message: SectionModel | SectionJob): void {
    if (message.type === 'model') return this.work.load(message);
    const reply = this.work.cut(message);
    setTimeout(() => this.onmessage?.({ data: reply }));
  }

  terminate(): void {}
}
