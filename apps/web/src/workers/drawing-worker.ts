import { type DrawnSection, hiddenLineDrawing, withDimensions, writeSvg } from '@bathyscope/core/drawing';
import type { PartGeometry } from '@bathyscope/core/geometry';
import type { Mat4, Quaternion } from '@bathyscope/core/math';
import type { DrawnDimension } from '@bathyscope/core/measure';
import { messageOf } from '@bathyscope/core/tables';
import { writeDxf } from './write-dxf.ts';

/*
 * The line drawing of a view, away from the interface's thread: hidden lines of a large
 * assembly take their time.
 */

export interface DrawingRequest {
  parts: Map<number, PartGeometry>;
  components: { part: number; placement: Mat4; whole: boolean }[];
  section?: DrawnSection;
  orientation: Quaternion;
  hidden: boolean;
  smooth: boolean;
  format: 'svg' | 'dxf';
  scale: number;
  title: string;
  dimensions: DrawnDimension[];
}

export type DrawingReply =
  { progress: number } | { text: string; curves: number; tolerance: number } | { error: string };

self.onmessage = ({ data }: MessageEvent<DrawingRequest>) => {
  const reply = (message: DrawingReply) => self.postMessage(message);
  try {
    const components = data.components.map(({ part, placement, whole }) => ({
      placement,
      whole,
      geometry: data.parts.get(part)!,
    }));
    const lines = hiddenLineDrawing(components, data.orientation, {
      hidden: data.hidden,
      smooth: data.smooth,
      section: data.section,
      onProgress: (progress) => reply({ progress }),
    });
    const drawing = withDimensions(
      lines,
      data.dimensions,
      data.orientation,
      data.format === 'dxf' ? 1 : data.scale,
    );
    const text =
      data.format === 'svg' ? writeSvg(drawing, { scale: data.scale, title: data.title }) : writeDxf(drawing);
    reply({ text, curves: drawing.curves.length, tolerance: drawing.tolerance });
  } catch (error) {
    reply({ error: messageOf(error) });
  }
};
