import { useEffect, useRef } from 'react';
import { mountScene } from '../../scene/mount-scene.ts';
import { useWorkspace } from '../use-workspace.ts';

export function SceneCanvas() {
  const ws = useWorkspace();
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => mountScene(ws, ref.current!), [ws]);
  return (
    <canvas
      ref={ref}
      tabIndex={0}
      aria-label="Model"
      data-testid="scene"
      className="absolute inset-0 size-full touch-none outline-offset-[-3px]"
    />
  );
}
