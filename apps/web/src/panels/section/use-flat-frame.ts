import { boxOfLayers, type SheetMap } from '@bathyscope/core/drawing';
import type { Point2 } from '@bathyscope/core/math';
import { TINY } from '@bathyscope/core/tolerances';
import { useEffect, useState, type RefObject } from 'react';
import type { layersOf } from '../../pictures/cut-layers.ts';

/** What of the drawing is seen: its middle in mm and mm for one px. */
export interface Frame {
  x: number;
  y: number;
  mm: number;
}

export interface Size {
  width: number;
  height: number;
}

/** Room around a drawing that is fitted. */
const MARGIN = 1.15;
/** How much nearer a notch of 100 px of the wheel is. */
const NOTCH = 1.15;

/** From the plane of the cut to px of the drawing. */
export const mapOf = (frame: Frame, size: Size): SheetMap => ({
  x: (v) => (v - frame.x) / frame.mm + size.width / 2,
  y: (v) => size.height / 2 - (v - frame.y) / frame.mm,
  scale: 1 / frame.mm,
});

function fitted(layers: ReturnType<typeof layersOf>, size: Size): Frame {
  const box = boxOfLayers(layers);
  return {
    x: (box.minX + box.maxX) / 2,
    y: (box.minY + box.maxY) / 2,
    mm: Math.max((box.maxX - box.minX) / size.width, (box.maxY - box.minY) / size.height, TINY) * MARGIN,
  };
}

/** What of a drawing is seen: all of it until the wheel or a drag says otherwise. */
export function useFlatFrame(ref: RefObject<SVGSVGElement | null>, layers: ReturnType<typeof layersOf>) {
  const [size, setSize] = useState<Size>({ width: 1, height: 1 });
  const [frame, setFrame] = useState<Frame | null>(null);
  useEffect(() => {
    const watcher = new ResizeObserver(([e]) =>
      setSize({ width: e.contentRect.width, height: e.contentRect.height }),
    );
    watcher.observe(ref.current!);
    return () => watcher.disconnect();
  }, [ref]);
  const shown = frame ?? fitted(layers, size);
  const toModel = (px: number, py: number): Point2 => [
    (px - size.width / 2) * shown.mm + shown.x,
    (size.height / 2 - py) * shown.mm + shown.y,
  ];
  const place = (e: { clientX: number; clientY: number }): readonly [number, number] => {
    const box = ref.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  useEffect(() => {
    const svg = ref.current!;
    // React listens passively, which could not keep the page from scrolling.
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const [px, py] = place(e);
      const [mx, my] = toModel(px, py);
      const mm = shown.mm * NOTCH ** (e.deltaY / 100);
      setFrame({ mm, x: mx - (px - size.width / 2) * mm, y: my - (size.height / 2 - py) * mm });
    };
    svg.addEventListener('wheel', wheel, { passive: false });
    return () => svg.removeEventListener('wheel', wheel);
  });
  return { size, shown, setFrame, toModel, place };
}
