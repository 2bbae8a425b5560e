import { SectionWork, type SectionJob, type SectionModel } from './section-work.ts';

/* Cuts the model away from the interface's thread. */

const work = new SectionWork();

self.onmessage = ({ data }: MessageEvent<SectionModel | SectionJob>) => {
  if (data.type === 'model') return work.load(data);
  const reply = work.cut(data);
  const transfer = reply.planes.flatMap(({ buffers: b }) =>
    [b.positions, b.inPlane, b.thickness, b.indices, b.ranges, b.outlines].map(
      (a) => a.buffer as ArrayBuffer,
    ),
  );
  self.postMessage(reply, { transfer });
};
