import { useLayoutEffect, useState, type RefObject } from 'react';

/** Width of what an element holds, px, as it changes; the element stays the same. */
export function useWidth(element: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const watcher = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width));
    watcher.observe(element.current!);
    return () => watcher.disconnect();
  }, [element]);
  return width;
}
