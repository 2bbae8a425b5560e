import type { ReactNode } from 'react';
import type { PaneState } from '../../state/camera-store.ts';

/** Lies over a pane and cuts off what reaches beyond it; the mouse goes through. */
export function OverPane({ rect, children }: Pick<PaneState, 'rect'> & { children: ReactNode }) {
  const share = (x: number) => `${x * 100}%`;
  return (
    <div
      className="pointer-events-none absolute z-10 overflow-hidden"
      style={{
        left: share(rect.x),
        top: share(rect.y),
        width: share(rect.width),
        height: share(rect.height),
      }}
    >
      {children}
    </div>
  );
}
