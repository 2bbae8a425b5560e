import { useEffect, useRef } from 'react';
import { mountScene } from '../../scene/mount-scene.ts';
import { pickAt } from '../../workspace/picking/picking.ts';
import { giveMaterial } from '../../workspace/mass/given-materials.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import { takesMaterial } from '../mass/material-drag.ts';
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
      {...takesMaterial((id, at) => dropMaterial(ws, ref.current!, id, at))}
      className="absolute inset-0 size-full touch-none outline-offset-[-3px]"
    />
  );
}

/** A material that is dropped on a part in the scene is given to it. */
function dropMaterial(
  ws: Workspace,
  canvas: HTMLCanvasElement,
  id: string,
  { clientX, clientY }: { clientX: number; clientY: number },
): void {
  const { left, top } = canvas.getBoundingClientRect();
  const hit = pickAt(ws, clientX - left, clientY - top);
  const part = hit && ws.model.getState().byPath.get(hit.component)?.part;
  if (part !== undefined && part !== null) giveMaterial(ws, [part], id);
}
